import { watchDebounced } from "@vueuse/core";
import { computed, onScopeDispose, ref, shallowRef } from "vue";
import { answered, client, Refused, type Schemas } from "../../api/client";

export type Answer = Schemas["PromiseView"];

/** After how long without a key the question is asked, and something better is looked for. */
const asksAfter = 120;
const looksAfter = 600;

/**
 * Asks whether an order can be taken on as it is typed: first from what comes about at once, then, where that is a no,
 * with something better looked for. Another key gives up what is being asked.
 */
export function usePromise(question: () => Schemas["OrderBody"] | undefined, id: () => string | undefined) {
  const answer = shallowRef<Answer>();
  const asked = ref("");
  const looking = ref(false);
  /** The answer whose date was taken: its plan is known, and asked for with it. */
  const taken = ref<string>();
  const busy = ref(false);
  const error = shallowRef<unknown>();
  let going: AbortController | undefined;
  let later: ReturnType<typeof setTimeout> | undefined;

  const text = computed(() => JSON.stringify([question(), id()]));
  function halt() {
    clearTimeout(later);
    going?.abort();
    going = undefined;
    looking.value = busy.value = false;
  }

  async function ask(path: "/api/promise" | "/api/promise/look", of: string) {
    const body = question();
    if (!body) return;
    going = new AbortController();
    const { signal } = going;
    (path === "/api/promise" ? busy : looking).value = true;
    try {
      const found = await answered(client.POST(path, { body: { ...body, id: id(), promise: taken.value }, signal }));
      if (signal.aborted) return;
      answer.value = found;
      asked.value = of;
      error.value = undefined;
      if (found.verdict === "not" && !found.searched)
        later = setTimeout(() => void ask("/api/promise/look", of), looksAfter);
    } catch (e) {
      if (signal.aborted) return;
      error.value = e;
      if (path === "/api/promise") answer.value = undefined;
    } finally {
      if (!signal.aborted) (path === "/api/promise" ? busy : looking).value = false;
    }
  }

  watchDebounced(
    text,
    (now) => {
      halt();
      if (!question()) {
        answer.value = error.value = undefined;
        return;
      }
      void ask("/api/promise", now);
    },
    { debounce: asksAfter, immediate: true },
  );
  onScopeDispose(halt);

  return {
    answer,
    /** Takes the date that the answer names: what is asked next is asked by its plan. */
    take: () => (taken.value = answer.value?.id),
    /** True while the answer is of what was typed before. */
    stale: computed(() => busy.value || (!!answer.value && asked.value !== text.value)),
    looking,
    busy,
    error,
    refused: computed(() => (error.value instanceof Refused ? error.value : undefined)),
  };
}
