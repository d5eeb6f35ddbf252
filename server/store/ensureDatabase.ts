import pg from 'pg';

/** Creates the database named in the connection when it is not there yet. Its name comes from our own configuration. */
export async function ensureDatabase(connection: pg.ClientConfig & { database: string }): Promise<void> {
  const client = new pg.Client({ ...connection, database: 'postgres' });
  await client.connect();
  try {
    const { rowCount } = await client.query('select 1 from pg_database where datname = $1', [connection.database]);
    if (rowCount === 0) await client.query(`create database ${pg.escapeIdentifier(connection.database)}`);
  } finally {
    await client.end();
  }
}
