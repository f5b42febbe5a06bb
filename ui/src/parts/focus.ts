/** What opens over a page, or beside it, and takes the focus with it when it goes. */
const openings = ".v-overlay, .drawer, [role=dialog]";
const remembered = 12;

/** Whatever is shut gives the focus back to where it was before: to what was focused last that is still there. */
export function giveBack() {
  const trail: HTMLElement[] = [];
  document.addEventListener("focusin", (event) => {
    const e = event.target as HTMLElement;
    const was = trail.indexOf(e);
    if (was >= 0) trail.splice(was, 1);
    trail.push(e);
    if (trail.length > remembered) trail.shift();
  });
  new MutationObserver((changes) => {
    const last = trail.at(-1);
    if (document.activeElement !== document.body || !last || last.isConnected) return;
    const shut = (n: Node) =>
      n instanceof Element && n.contains(last) && (n.matches(openings) || n.querySelector(openings));
    if (!changes.some((c) => [...c.removedNodes].some(shut))) return;
    while (trail.length && !trail.at(-1)!.isConnected) trail.pop();
    trail.at(-1)?.focus({ preventScroll: true });
  }).observe(document.body, { childList: true, subtree: true });
}
