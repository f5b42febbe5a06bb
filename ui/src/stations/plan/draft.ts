import type { Block, PlanView } from "../../api/client";

/** A task as somebody moves it on the board: to whom, to when, or both. */
export interface Draft {
  task: string;
  person?: string;
  start?: number;
  confirmed: boolean;
}

/** Minutes that a task is moved by at a time. */
export const step = 15;

/** A draft after an arrow key: earlier or later, or to the next of those who may do it. */
export function moved(draft: Draft | undefined, block: Block, key: string, plan: PlanView, may: string[]): Draft {
  const now = draft?.task === block.id ? draft : { task: block.id, confirmed: false };
  if (key === "ArrowLeft" || key === "ArrowRight") {
    const from = now.start ?? block.from;
    const by = key === "ArrowRight" ? step : -step;
    return { ...now, start: Math.max(plan.now, Math.round((from + by) / step) * step) };
  }
  const people = plan.people.map((p) => p.id).filter((id) => may.includes(id));
  const at = people.indexOf(now.person ?? block.person ?? "");
  const next = people[(at + (key === "ArrowDown" ? 1 : people.length - 1)) % people.length];
  return { ...now, person: next };
}
