type Ray = (from: DOMRect, to: DOMRect) => [ahead: number, aside: number];

const middle = (r: DOMRect): [number, number] => [r.left + r.width / 2, r.top + r.height / 2];
const across =
  (sign: 1 | -1): Ray =>
  (from, to) => [sign * (middle(to)[0] - middle(from)[0]), Math.abs(middle(to)[1] - middle(from)[1])];
const along =
  (sign: 1 | -1): Ray =>
  (from, to) => [sign * (middle(to)[1] - middle(from)[1]), Math.abs(middle(to)[0] - middle(from)[0])];
const rays: Record<string, Ray> = {
  ArrowRight: across(1),
  ArrowLeft: across(-1),
  ArrowDown: along(1),
  ArrowUp: along(-1),
};
/** How much farther something seems that lies aside than one that lies straight ahead. */
const asideWeighs = 3;

/** Arrow keys go from one thing to the nearest that way, wherever they stand: for matrices, lists and lanes alike. */
export function walk(event: KeyboardEvent, things: string) {
  const ray = rays[event.key];
  const here = (event.target as HTMLElement).closest<HTMLElement>(things);
  if (!ray || !here || event.altKey || event.ctrlKey || event.metaKey) return;
  event.preventDefault();
  const from = here.getBoundingClientRect();
  let [best, least] = [undefined as HTMLElement | undefined, Infinity];
  for (const e of (event.currentTarget as HTMLElement).querySelectorAll<HTMLElement>(things)) {
    const [ahead, aside] = ray(from, e.getBoundingClientRect());
    if (e === here || ahead < 2) continue;
    const far = ahead + asideWeighs * aside;
    if (far < least) [best, least] = [e, far];
  }
  best?.focus();
}
