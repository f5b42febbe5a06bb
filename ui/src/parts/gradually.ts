import { onUnmounted, ref, watch } from "vue";

/**
 * How many of many things are drawn so far: the first at once, so that a station answers, the rest some at a time between
 * frames. What is printed or searched later is all there.
 */
export function useGradually(all: () => number, first = 12, step = 12) {
  const drawn = ref(first);
  let waiting = 0;
  const more = () => {
    waiting = 0;
    if (drawn.value >= all()) return;
    drawn.value += step;
    next();
  };
  const next = () => (waiting ||= requestAnimationFrame(() => (waiting = window.setTimeout(more, 0))));
  watch(all, (n) => drawn.value < n && next(), { immediate: true });
  onUnmounted(() => {
    cancelAnimationFrame(waiting);
    clearTimeout(waiting);
  });
  return drawn;
}
