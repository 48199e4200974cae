// The declarations know the folder, not the file that Node.js asks for.
declare module 'selenium-webdriver/http/index.js' {
  export * from 'selenium-webdriver/http';
}
