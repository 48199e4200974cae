declare module 'currency-codes/data.js' {
  const data: readonly {
    code: string;
    number: string;
    digits: number;
    currency: string;
    countries: string[];
  }[];
  export default data;
}
