import createClient from "openapi-fetch";
import { useLocalStorage } from "@vueuse/core";
import { inWords } from "../words/refusals";
import { t } from "../words/said";
import type { components, paths } from "./schema.gen";

export type Schemas = components["schemas"];
export type OrderView = Schemas["OrderView"];
export type TaskCard = Schemas["TaskCard"];
export type CountCell = Schemas["CountCell"];
export type OpenedCell = Schemas["OpenedCell"];
export type StudioView = Schemas["StudioView"];
export type PlanView = Schemas["PlanView"];
export type Block = Schemas["Block"];

/** A place without the names of entries: `skills[0] "wiring".pace` is `skills[0].pace`. */
const unnamed = (place: string) => place.replace(/(\[\d+\]) "(?:[^"\\]|\\.)*"/g, "$1");

/** A refused request in words: what happened, and at which field. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly fields: { location: string; message: string; value?: unknown }[],
  ) {
    super(message);
  }
  /** The message for a field such as "leaves" or "lines[0].quantity". */
  at(field: string): string | undefined {
    return this.fields.find((f) => unnamed(f.location) === `body.${field}`)?.message;
  }
}

export const client = createClient<paths>({ baseUrl: location.origin });

interface Answer<T> {
  data?: T;
  error?: Partial<Schemas["ErrorModel"]>;
  response: Response;
}

/** The body of an answer, or Refused. */
export async function answered<T>(request: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await request;
  } catch {
    throw new Refused(0, t("Bractum does not answer. Nothing was lost; try again when the connection is back."), []);
  }
  if (answer.data !== undefined) return answer.data;
  const fields = (answer.error?.errors ?? []).map((e) => ({
    location: e.location ?? "",
    message: inWords(e.message ?? "", e.says),
    value: e.value,
  }));
  throw new Refused(
    answer.response.status,
    answer.error?.detail
      ? inWords(answer.error.detail, answer.error.says)
      : t("Something went wrong; nothing was written."),
    fields,
  );
}

/** Who is at this bench: chosen once per browser. */
export const person = useLocalStorage("bractum.person", "", { listenToStorageChanges: false });

export function sitDown(id: string): void {
  person.value = id;
}

export interface CommandHeader {
  "Command-Id": string;
  Person: string;
}

/** Headers of a command: its own id, so that a repetition is harmless, and who gives it. */
export function command(): CommandHeader {
  return { "Command-Id": crypto.randomUUID(), Person: person.value };
}

/**
 * Sends commands so that one whose answer was lost keeps its id when it is sent again:
 * if it had arrived, it is answered as the first time. Another wish gets another id.
 */
export function useCommands() {
  let unanswered: { wish: string; header: CommandHeader } | undefined;
  return async function send<T>(wish: unknown, request: (header: CommandHeader) => Promise<T>): Promise<T> {
    const text = JSON.stringify([person.value, wish]);
    if (unanswered?.wish !== text) unanswered = { wish: text, header: command() };
    try {
      const answer = await request(unanswered.header);
      unanswered = undefined;
      return answer;
    } catch (error) {
      if (!(error instanceof Refused) || error.status !== 0) unanswered = undefined;
      throw error;
    }
  };
}

/** Keeps a photo or drawing in the studio: its id there, the same when the command is repeated. */
export async function keepPicture(file: Blob, header: CommandHeader): Promise<string> {
  const kept = await answered(
    client.POST("/api/book/pictures", {
      params: { header },
      body: file as never,
      bodySerializer: (raw) => raw as never,
      headers: { "Content-Type": "application/octet-stream" },
    }),
  );
  return kept.id;
}
