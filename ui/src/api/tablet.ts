import { type DBSchema, openDB } from "idb";

/** What a tablet keeps for itself: what it heard last, and what was recorded and is not sent yet. */
interface Tablet extends DBSchema {
  heard: { key: string; value: { what: unknown; at: number } };
  outbox: { key: number; value: Kept };
}

/** What is recorded at a bench, as a command of its own. */
export type Kind = "start" | "pause" | "count" | "finish" | "ask" | "remark";

/** A command that waits to be sent, or was refused when it was. */
export interface Kept {
  /** Of the command: sent twice, it counts once. */
  id: string;
  n?: number;
  person: string;
  kind: Kind;
  task: string;
  /** What it is about, in words. */
  of: string;
  body: Record<string, unknown>;
  /** A photo that goes with it, under a command id of its own, and goes first. */
  photo?: { id: string; file: Blob };
  /** When it happened, by the tablet's clock, and by the page's own where it is still the same page. */
  at: number;
  page: string;
  sinceLoad: number;
  refused?: string;
}

const tablet = () =>
  openDB<Tablet>("bractum", 1, {
    upgrade(db) {
      db.createObjectStore("heard");
      db.createObjectStore("outbox", { autoIncrement: true });
    },
  });
let opened: ReturnType<typeof tablet> | undefined;
/** The tablet's own store; nothing where the browser has none, as in a private window. */
export const store = async () => {
  try {
    return await (opened ??= tablet());
  } catch {
    return undefined;
  }
};

/** What the studio answers; or, while nothing answers, what it answered last, and when that was. */
export async function remembered<T>(key: string, ask: () => Promise<T>): Promise<{ what: T; at: number }> {
  const db = await store();
  try {
    const heard = { what: await ask(), at: Date.now() };
    void db?.put("heard", heard, key).catch(() => undefined);
    return heard;
  } catch (error) {
    const kept = navigator.onLine && !lost(error) ? undefined : await db?.get("heard", key);
    if (kept) return kept as { what: T; at: number };
    throw error;
  }
}

/** True of an error that says that nothing answers. */
export const lost = (error: unknown): boolean => (error as { status?: number }).status === 0;
