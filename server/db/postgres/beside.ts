import { randomUUID } from 'node:crypto';
import { Client } from 'pg';

/** Makes an empty database on the same server, for a while. */
export async function databaseBeside(url: string): Promise<{ url: string; drop(): Promise<void> }> {
  const name = `mondrel_check_${randomUUID().replaceAll('-', '')}`;
  const ask = async (sql: string): Promise<void> => {
    const client = new Client({ connectionString: url });
    await client.connect();
    try {
      await client.query(sql);
    } finally {
      await client.end();
    }
  };
  await ask(`create database ${name}`);
  const other = new URL(url);
  other.pathname = `/${name}`;
  return { url: other.href, drop: () => ask(`drop database if exists ${name} with (force)`) };
}
