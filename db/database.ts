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
  /** @param unknown the connection was lost while something was being written: nobody knows whether it was */
  constructor(
    readonly reason: string,
    readonly unknown = false,
  ) {
    super(
      unknown
        ? `The database went away while it was writing (${reason}). It is not known whether it was written. Try the same again in a moment: one press is never written twice.`
        : `The database does not answer (${reason}). Try again in a moment; nothing was changed.`,
    );
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
/** Nothing was sent: surely nothing was changed. */
const REFUSED = new Set(["ECONNREFUSED", "ENOENT", "ER_CON_COUNT_ERROR", "ER_NEW_ABORTING_CONNECTION"]);
/** Deadlock, lock wait, Galera certification failure: the transaction was rolled back and may simply be run again. */
const RETRY = new Set([1213, 1205, 1020]);
/** A node without a majority of its cluster takes nothing. */
const NO_QUORUM = 1047;
/** A commit that failed, most often for want of a majority: whether it holds is not known. */
const COMMIT_FAILED = 1180;
/** No room on the disk of the database. */
const FULL = new Set([1021, 1114, 3]);
const ATTEMPTS = 12;
/** What may be repeated is, for so long, while the database is away. */
const PATIENCE_MS = 6000;

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

  /** A query whose connection is lost is asked once more: reading twice changes nothing. */
  async rows<T>(schema: z.ZodType<T>, sql: string, values: readonly Value[] = []): Promise<T[]> {
    const ask = async () => readRows(schema, await this.pool.execute(sql, bind(values)));
    return this.guarded(() =>
      ask().catch((error) => {
        const { code = "" } = error as { code?: string };
        if (!AWAY.has(code) || REFUSED.has(code)) throw error;
        return ask();
      }),
    );
  }

  async run(sql: string, values: readonly Value[] = []): Promise<number> {
    return this.guarded(async () => affected(await this.pool.execute(sql, bind(values))), true);
  }

  /**
   * Runs the work in one transaction; repeats it when the database asks for that.
   *
   * @param repeatable done twice it does no more than once: it is then repeated also when the connection was lost and
   *   nobody knows whether it was written, as long as somebody will wait
   */
  async transaction<T>(work: (sql: Sql) => Promise<T>, { repeatable = false } = {}): Promise<T> {
    const begun = Date.now();
    for (let attempt = 1; ; attempt++) {
      const at = { committing: false };
      try {
        return await this.once(work, at);
      } catch (error) {
        const { errno = 0, code = "" } = error as { errno?: number; code?: string };
        const again = RETRY.has(errno) && attempt < ATTEMPTS;
        const waiting = repeatable && Date.now() - begun < PATIENCE_MS;
        const away = AWAY.has(code) || errno === NO_QUORUM || errno === COMMIT_FAILED;
        if (!again && !(away && waiting)) throw this.told(error, at.committing);
        await new Promise((resolve) => setTimeout(resolve, Math.random() * Math.min(300, 20 * attempt * attempt)));
      }
    }
  }

  private async once<T>(work: (sql: Sql) => Promise<T>, at: { committing: boolean }): Promise<T> {
    const connection = await this.pool.getConnection();
    const sql: Sql = {
      rows: async (schema, text, values = []) => readRows(schema, await connection.execute(text, bind(values))),
      run: async (text, values = []) => affected(await connection.execute(text, bind(values))),
    };
    try {
      await connection.beginTransaction();
      const result = await work(sql);
      at.committing = true;
      await connection.commit();
      return result;
    } catch (error) {
      await connection.rollback().catch(() => undefined);
      throw error;
    } finally {
      connection.release();
    }
  }

  private async guarded<T>(work: () => Promise<T>, writes = false): Promise<T> {
    try {
      return await work();
    } catch (error) {
      throw this.told(error, writes);
    }
  }

  /** An error in the words of a person where it is one of the database's own. */
  private told(error: unknown, writing: boolean): unknown {
    const { errno = 0, code = "" } = error as { errno?: number; code?: string };
    if (FULL.has(errno)) return this.away(new DatabaseAway("its disk is full", false));
    if (errno === NO_QUORUM) return this.away(new DatabaseAway("its cluster has no majority", false));
    if (errno === COMMIT_FAILED) return this.away(new DatabaseAway("its cluster lost its majority", true));
    if (AWAY.has(code)) return this.away(new DatabaseAway(code, writing && !REFUSED.has(code)));
    return error;
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
