import type { Schemas } from "./client";
import type { Kept } from "./tablet";

type Bench = Schemas["BenchView"];
const counts = (body: Record<string, unknown>) =>
  ["good", "second", "mend", "broken"].reduce((sum, key) => sum + Number(body[key] ?? 0), 0);

/**
 * A bench as it will be once what waits on the tablet has arrived: a task that was begun goes on, one that was
 * finished gives way to the next. Minutes that have passed since it was heard are added to its clock.
 */
export function foretold(heard: Bench, told: Kept[], passed = 0): Bench {
  let v: Bench = passed ? { ...heard, now: heard.now + passed } : heard;
  for (const k of told) {
    const ahead = v.ahead.find((a) => a.task.id === k.task);
    switch (k.kind) {
      case "start":
        if (v.task?.id !== k.task && ahead)
          v = { ...v, task: ahead.task, card: ahead.card, ahead: v.ahead.filter((a) => a !== ahead), eyes: [] };
        if (v.task?.id === k.task)
          v = { ...v, task: { ...v.task, state: "started", start: v.now, end: v.now + v.task.end - v.task.start } };
        break;
      case "pause":
        if (v.task?.id === k.task) v = { ...v, task: { ...v.task, state: "paused" } };
        break;
      case "count":
        if (v.task?.id === k.task) {
          const { task } = v;
          const run = task.run && { ...task.run, number: Math.min(task.run.of, task.run.number + 1) };
          const n = counts(k.body);
          v = { ...v, task: { ...task, run, quantity: task.quantity - n, counted: task.counted + n } };
        }
        break;
      case "finish":
        if (v.task?.id === k.task) {
          const [next, ...rest] = v.ahead;
          v = {
            ...v,
            task: next?.task,
            card: next?.card,
            ahead: rest,
            next: v.next.filter((t) => t.id !== next?.task.id),
            sitting: v.sitting.filter((t) => t.id !== next?.task.id),
            stiffens: undefined,
            first: undefined,
            eyes: [],
            asks: undefined,
          };
        }
        break;
      case "ask":
        if (v.task?.id === k.task) v = { ...v, asks: String(k.body.says ?? "") || undefined };
    }
  }
  return v;
}
