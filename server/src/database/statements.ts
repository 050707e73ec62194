import type { Database, Statement } from 'better-sqlite3';

/** Stores ask in a few hundred sentences; one that makes them up must not fill the memory. */
const MOST = 1000;

/**
 * Has a connection keep what it prepared, by its text: judging two hundred runs asks the same ten questions two thousand times, and making
 * sense of one takes longer than answering it. A statement that is iterated over must not be asked again meanwhile.
 */
export function keepStatements(db: Database): Database {
  const prepare = db.prepare.bind(db) as (sql: string) => Statement;
  const kept = new Map<string, Statement>();
  db.prepare = ((sql: string) => {
    let statement = kept.get(sql);
    if (!statement) {
      if (kept.size >= MOST) kept.clear();
      statement = prepare(sql);
      kept.set(sql, statement);
    }
    return statement;
  }) as Database['prepare'];
  return db;
}
