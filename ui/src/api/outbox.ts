import { ref, toRaw } from "vue";
import { answered, client, command, keepPicture, person, Refused, type Schemas } from "./client";
import { type Kept, type Kind, lost, store } from "./tablet";

/**
 * What is recorded at a bench goes out in order, each with a command id of its own. While nothing answers it
 * is kept on the tablet, and sent when something does; a repetition counts once. What the studio refuses then,
 * because something else happened meanwhile, is shown for whoever recorded it to decide.
 */
export const waiting = ref<Kept[]>([]);

const page = crypto.randomUUID();
const paths = {
  start: "/api/tasks/{task}/start",
  pause: "/api/tasks/{task}/pause",
  count: "/api/tasks/{task}/count",
  finish: "/api/tasks/{task}/finish",
  ask: "/api/tasks/{task}/ask",
  remark: "/api/tasks/{task}/remark",
} as const;

/** How many minutes ago something happened: by the page's own clock if it can be, which nobody sets. */
export function ago(
  k: Pick<Kept, "at" | "page" | "sinceLoad">,
  now = Date.now(),
  sinceLoad = performance.now(),
): number {
  const passed = k.page === page ? sinceLoad - k.sinceLoad : now - k.at;
  return Math.max(0, Math.min(1440, Math.floor(passed / 60_000)));
}

async function post(k: Kept, late: boolean) {
  const picture = k.photo && (await keepPicture(k.photo.file, { "Command-Id": k.photo.id, Person: k.person }));
  return answered(
    client.POST(paths[k.kind], {
      params: {
        path: { task: k.task },
        header: { "Command-Id": k.id, Person: k.person, "Minutes-Ago": late ? ago(k) : 0 },
      },
      body: { ...k.body, picture } as never,
    }) as Promise<{ data?: Schemas["Recorded"]; response: Response }>,
  );
}

async function reload() {
  const db = await store();
  if (!db) return;
  const keys = await db.getAllKeys("outbox");
  waiting.value = (await db.getAll("outbox")).map((k, i) => ({ ...k, n: keys[i] }));
}

async function keep(k: Kept) {
  const db = await store();
  if (db) await db.add("outbox", plain(k));
  else waiting.value = [...waiting.value, { ...k, n: -1 - waiting.value.length }];
  await reload();
}

/** A copy that the tablet's store takes: no reactive objects, the photo as it is. */
const plain = (k: Kept): Kept => ({
  ...(JSON.parse(JSON.stringify(k)) as Kept),
  photo: k.photo && { ...toRaw(k.photo) },
});

/** Takes what was decided on out of the outbox. */
export async function drop(k: Kept): Promise<void> {
  await (await store())?.delete("outbox", k.n!);
  waiting.value = waiting.value.filter((other) => other.n !== k.n);
}

/** Records something at a bench: the studio's answer, or nothing where it is kept until there is one. */
export async function record(
  kind: Kind,
  task: string,
  of: string,
  body: Record<string, unknown>,
  file?: Blob,
): Promise<Schemas["Recorded"] | undefined> {
  const k: Kept = {
    id: command()["Command-Id"],
    person: person.value,
    kind,
    task,
    of,
    body,
    photo: file && { id: command()["Command-Id"], file },
    at: Date.now(),
    page,
    sinceLoad: performance.now(),
  };
  if (!waiting.value.some((other) => !other.refused)) {
    try {
      const answer = await post(k, false);
      told(); // the stream may be slow to come back, or cut
      return answer;
    } catch (error) {
      if (!lost(error)) throw error;
    }
  }
  await keep(k);
  void send();
  return undefined;
}

let sending = false;
/** Whether the studio's clock stands: then nothing is ever ago. */
let standing = () => false;
let told = () => {};

/** Sends what waits, in order, until nothing answers; told is called when something has arrived. */
export async function send(): Promise<void> {
  if (sending) return;
  sending = true;
  try {
    await reload();
    for (const k of waiting.value.filter((k) => !k.refused)) {
      try {
        await post(k, !standing());
        await drop(k);
      } catch (error) {
        // whoever did it has to sit down, or the browser to come in, once more: until then it waits
        if (lost(error) || (error instanceof Refused && error.status === 401)) return;
        const refused = error instanceof Refused ? error.message : String(error);
        await (await store())?.put("outbox", { ...plain(k), refused }, k.n);
        await reload();
      }
      told();
    }
  } finally {
    sending = false;
  }
}

/** Begins to send: when the page opens, when the network is back, and now and then while anything waits. */
export function beginSending(clockStands: () => boolean, arrived: () => void): void {
  standing = clockStands;
  told = arrived;
  void send();
  addEventListener("online", () => void send());
  setInterval(() => waiting.value.some((k) => !k.refused) && void send(), 5000);
}
