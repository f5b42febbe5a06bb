import { useQuery } from "@tanstack/vue-query";
import { useManualRefHistory, watchDebounced } from "@vueuse/core";
import { computed, ref, shallowRef, watch } from "vue";
import { v7 } from "uuid";
import { answered, client, type Schemas } from "../../api/client";

export type Recipe = Schemas["Recipe"];
export type Step = Schemas["Step"];
export type Change = Schemas["Variant"];

/** How a recipe is looked at: itself, one of its variants, or one school of a technique. */
export interface Look {
  variant?: string;
  question?: string;
  school?: string;
}

export const newId = (): string => v7();
const copy = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

/**
 * Recipes as they are being written: the first is what they are about, the rest goes
 * into it. Every change can be undone; the core is asked what they come to.
 */
export function useWriting() {
  const recipes = shallowRef<Recipe[]>([]);
  const original = new Map<string, string>();
  const history = useManualRefHistory(recipes, { capacity: 200 });
  const chosen = ref("");
  const look = ref<Look>({});
  const colourway = ref("");
  const quantity = ref(1);
  const refused = ref("");

  /** Begins with what the book, a draft or a pattern gives; all of it counts as new until the book knows it. */
  function begin(all: Recipe[]) {
    original.clear();
    recipes.value = copy(all);
    chosen.value = all[0]?.id ?? "";
    look.value = {};
    history.commit();
    history.clear();
    refused.value = "";
  }
  /** What the book itself has: recipes count as changed only where they differ from that. */
  function knows(all: Recipe[]) {
    for (const r of all) original.set(r.id, JSON.stringify(r));
  }

  const root = computed(() => recipes.value[0]);
  const base = computed(() => recipes.value.find((r) => r.id === chosen.value) ?? recipes.value[0]);
  const changed = computed(() => recipes.value.filter((r) => original.get(r.id) !== JSON.stringify(r)));
  const asked = computed(() => ({
    recipes: changed.value,
    recipe: root.value?.id ?? "",
    colourway: colourway.value,
    quantity: quantity.value,
    of: chosen.value,
    look: look.value,
  }));
  /** Typing is let come to rest for a moment. */
  const settled = shallowRef(asked.value);
  watchDebounced(asked, (now) => (settled.value = now), { debounce: 90 });

  const examine = (recipe: string, as: Look) =>
    answered(
      client.POST("/api/book/examine", {
        body: {
          recipes: settled.value.recipes,
          recipe,
          variant: as.variant,
          question: as.question,
          school: as.school,
          colourway: settled.value.colourway || undefined,
          quantity: settled.value.quantity,
        },
      }),
    );
  /** What the flower comes to, seen as its variant when that is looked at. */
  const whole = useQuery({
    queryKey: ["examined", settled],
    queryFn: () => {
      const s = settled.value;
      return examine(s.recipe, s.of === s.recipe ? s.look : {});
    },
    enabled: computed(() => settled.value.recipe !== ""),
    placeholderData: (before: Schemas["Examined"] | undefined) => before,
    gcTime: 0,
  });
  /** What the chosen recipe comes to, if it is not the flower itself. */
  const part = useQuery({
    queryKey: ["examined part", settled],
    queryFn: () => examine(settled.value.of, settled.value.look),
    enabled: computed(() => settled.value.of !== "" && settled.value.of !== settled.value.recipe),
    gcTime: 0,
  });
  const answer = computed(() => (chosen.value === root.value?.id ? whole.data.value : part.data.value));
  /** The last sheet that could be reckoned: shown, and said to be old, while something is wrong. */
  const sheet = ref<Schemas["Sheet"]>();
  watch(
    () => whole.data.value,
    (now) => {
      if (now?.sheet) sheet.value = now.sheet;
    },
    { immediate: true },
  );

  /** What was just made of a variant or school, until the core has answered for it. */
  const local = shallowRef<Recipe>();
  const asking = ref(0);
  watch(answer, () => {
    if (!asking.value && settled.value === asked.value) local.value = undefined;
  });
  watch([chosen, look], () => (local.value = undefined));
  /** The recipe as it is edited: itself, or as its variant or school makes it. */
  const edited = computed<Recipe | undefined>(() => {
    if (!look.value.variant && !look.value.school) return base.value;
    return local.value ?? answer.value?.made ?? undefined;
  });

  let lastly = { field: "", at: 0 };
  function replace(next: Recipe) {
    const was = recipes.value.find((r) => r.id === next.id);
    if (JSON.stringify(was) === JSON.stringify(next)) return; // nothing to undo
    const now = Date.now();
    const field = document.activeElement instanceof HTMLInputElement ? document.activeElement.name : "";
    if (!field || field !== lastly.field || now - lastly.at > 1500) keep(); // keys of one word are undone together
    lastly = { field, at: now };
    recipes.value = recipes.value.map((r) => (r.id === next.id ? next : r));
  }
  /** Whether something was written since the history was last told. */
  const fresh = computed(() => recipes.value !== history.last.value.snapshot);
  const canUndo = computed(() => fresh.value || history.canUndo.value);
  const canRedo = computed(() => !fresh.value && history.canRedo.value);
  function keep() {
    if (fresh.value) history.commit();
  }
  function undo() {
    if (!canUndo.value) return;
    keep();
    local.value = undefined;
    history.undo();
  }
  function redo() {
    if (!canRedo.value) return;
    local.value = undefined;
    history.redo();
  }

  /** Changes the chosen recipe; a variant or school is found from what was made of it. */
  async function edit(change: (r: Recipe) => void) {
    const of = edited.value;
    const own = base.value;
    if (!of || !own) return;
    const next = copy(of);
    change(next);
    refused.value = "";
    const { variant, question, school } = look.value;
    if (!variant && !school) {
      replace(next);
      return;
    }
    local.value = next;
    const turn = ++asking.value;
    const plain = copy(own);
    if (question) for (const t of plain.techniques ?? []) if (t.question === question) t.chosen = undefined;
    try {
      const found = await answered(
        client.POST("/api/book/vary", { body: { recipe: plain, made: next, name: variant ?? school ?? "" } }),
      );
      if (turn !== asking.value) return; // something newer was written meanwhile
      asking.value = 0;
      const changedOwn = copy(base.value ?? own);
      const list = variant ? changedOwn.variants : changedOwn.techniques?.find((t) => t.question === question)?.schools;
      const i = (list ?? []).findIndex((v) => v.name === (variant ?? school));
      if (list && i >= 0) list[i] = found;
      replace(changedOwn);
    } catch (error) {
      if (turn !== asking.value) return;
      asking.value = 0;
      local.value = undefined;
      refused.value = error instanceof Error ? error.message : String(error);
    }
  }
  /** Changes the chosen recipe itself, whatever is looked at. */
  function editSelf(change: (r: Recipe) => void) {
    if (!base.value) return;
    const next = copy(base.value);
    change(next);
    replace(next);
  }
  /** Changes one of the recipes, whichever is chosen. */
  function editOf(id: string, change: (r: Recipe) => void) {
    const of = recipes.value.find((r) => r.id === id);
    if (!of) return;
    const next = copy(of);
    change(next);
    replace(copy(next));
  }
  /** Looks at the chosen recipe as it is, or as one of its ways. */
  const see = (as: Look) => void (look.value = as);
  /** Turns to another recipe of those that are written. */
  function turnTo(id: string) {
    chosen.value = id;
    look.value = {};
  }
  /** Adds a recipe that is written along. */
  function add(r: Recipe) {
    keep();
    recipes.value = [...recipes.value, r];
  }
  /** Takes in recipes as something else has made them, by their ids. */
  function take(next: Recipe[]) {
    keep();
    const known = new Map(next.map((r) => [r.id, r]));
    recipes.value = [
      ...recipes.value.map((r) => known.get(r.id) ?? r),
      ...next.filter((n) => !recipes.value.some((r) => r.id === n.id)),
    ];
  }

  return {
    recipes,
    root,
    base,
    edited,
    changed,
    chosen,
    look,
    colourway,
    quantity,
    whole,
    answer,
    sheet,
    refused,
    busy: computed(() => asking.value > 0),
    /** True until what is written has been answered for. */
    open: computed(
      () => asking.value > 0 || settled.value !== asked.value || whole.isFetching.value || part.isFetching.value,
    ),
    see,
    turnTo,
    begin,
    knows,
    edit,
    editSelf,
    editOf,
    add,
    take,
    undo,
    redo,
    canUndo,
    canRedo,
  };
}

export type Writing = ReturnType<typeof useWriting>;
