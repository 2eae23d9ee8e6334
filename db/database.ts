import mysql from "mysql2/promise";
import type { z } from "zod";

export type Value = string | number | boolean | Date | Uint8Array | null;

/** What a query may be sent to: the pool or a transaction. */
export interface Sql {
  /** Rows of a query, checked where they enter. */
  rows<T>(schema: z.ZodType<T>, sql: string, values?: readonly Value[]): Promise<T[]>;
  /** Rows changed by a statement. */
  run(sql: string, values?: readonly Value[]): Promise<number>;
}

/** The database does not answer at the moment; the same call may succeed later. */
export class DatabaseAway extends Error {
  constructor(readonly reason: string) {
    super(`The database does not answer (${reason}). Try again in a moment; nothing was changed.`);
    this.name = "DatabaseAway";
  }
}

const AWAY = new Set([
  "ECONNREFUSED",
  "ECONNRESET",
  "EPIPE",
  "ETIMEDOUT",
  "ENOENT",
  "PROTOCOL_CONNECTION_LOST",
  "ER_SERVER_SHUTDOWN",
  "ER_CON_COUNT_ERROR",
  "ER_NEW_ABORTING_CONNECTION",
  "ER_CONNECTION_KILLED",
]);
/** Deadlock, lock wait, Galera certification failure: the transaction was rolled back and may simply be run again. */
const RETRY = new Set([1213, 1205, 1020, 1047]);
const ATTEMPTS = 4;

export interface ConnectionOptions {
  host: string;
  port: number;
  user: string;
  password: string;
  database: string;
}

/** Connection settings from the environment that `./iteron` prepares. */
export function connectionFromEnvironment(env: Record<string, string | undefined>): ConnectionOptions {
  return {
    host: env.ITERON_DB_HOST ?? "127.0.0.1",
    port: Number(env.ITERON_DB_PORT ?? 3306),
    user: env.ITERON_DB_USER ?? "iteron",
    password: env.ITERON_DB_PASSWORD ?? "",
    database: env.ITERON_DB_NAME ?? "iteron",
  };
}

export class Database implements Sql {
  private readonly pool: mysql.Pool;

  /** @param away what to throw when the database does not answer; the application turns it into a retry page */
  constructor(
    options: ConnectionOptions,
    private readonly away: (error: DatabaseAway) => unknown = (e) => e,
  ) {
    this.pool = mysql.createPool({
      ...options,
      connectionLimit: 16,
      maxIdle: 8,
      connectTimeout: 4000,
      timezone: "Z",
      charset: "utf8mb4",
      enableKeepAlive: true,
    });
  }

  async rows<T>(schema: z.ZodType<T>, sql: string, values: readonly Value[] = []): Promise<T[]> {
    return this.guarded(async () => readRows(schema, await this.pool.execute(sql, bind(values))));
  }

  async run(sql: string, values: readonly Value[] = []): Promise<number> {
    return this.guarded(async () => affected(await this.pool.execute(sql, bind(values))));
  }

  /** Runs the work in one transaction; repeats it when the database asks for that. */
  async transaction<T>(work: (sql: Sql) => Promise<T>): Promise<T> {
    for (let attempt = 1; ; attempt++) {
      try {
        return await this.guarded(() => this.once(work));
      } catch (error) {
        if (attempt === ATTEMPTS || !RETRY.has((error as { errno?: number }).errno ?? 0)) throw error;
        await new Promise((resolve) => setTimeout(resolve, 20 * attempt * attempt));
      }
    }
  }

  private async once<T>(work: (sql: Sql) => Promise<T>): Promise<T> {
    const connection = await this.pool.getConnection();
    const sql: Sql = {
      rows: async (schema, text, values = []) => readRows(schema, await connection.execute(text, bind(values))),
      run: async (text, values = []) => affected(await connection.execute(text, bind(values))),
    };
    try {
      await connection.beginTransaction();
      const result = await work(sql);
      await connection.commit();
      return result;
    } catch (error) {
      await connection.rollback().catch(() => undefined);
      throw error;
    } finally {
      connection.release();
    }
  }

  private async guarded<T>(work: () => Promise<T>): Promise<T> {
    try {
      return await work();
    } catch (error) {
      const code = (error as { code?: string }).code ?? "";
      if (AWAY.has(code)) throw this.away(new DatabaseAway(code));
      throw error;
    }
  }

  close(): Promise<void> {
    return this.pool.end();
  }
}

function bind(values: readonly Value[]) {
  return values.map((v) => (v instanceof Uint8Array ? Buffer.from(v.buffer, v.byteOffset, v.byteLength) : v));
}

function readRows<T>(schema: z.ZodType<T>, [rows]: [unknown, unknown]): T[] {
  return (rows as unknown[]).map((row) => schema.parse(row));
}

function affected([result]: [unknown, unknown]): number {
  return (result as { affectedRows?: number }).affectedRows ?? 0;
}

/** True for a violation of a unique key: the row is already there. */
export function isDuplicate(error: unknown): boolean {
  return (error as { errno?: number }).errno === 1062;
}
