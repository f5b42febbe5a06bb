<script setup lang="ts">
import { computed } from "vue";
import PartDrawing from "../../drawings/PartDrawing.vue";
import { t } from "../../words/said";

/**
 * The pieces of a run, each drawn: done, a second, to mend, broken, or still to do. One touch says up to which
 * piece a maker is; a second touch on the last takes it back.
 */
const props = defineProps<{
  form?: string;
  colour?: string;
  of: number;
  done: number;
  second: number;
  mend: number;
  broken: number;
}>();
const emit = defineEmits<{ reach: [number] }>();
const most = 24;
/** How many pieces one drawing stands for: a run of hundreds is drawn in twenty-four at most. */
const each = computed(() => Math.max(1, Math.ceil(props.of / most)));
const drawn = computed(() =>
  Array.from({ length: Math.ceil(props.of / each.value) }, (_, i) => {
    const upTo = Math.min(props.of, (i + 1) * each.value);
    const counted = [
      { as: "done", n: props.done },
      { as: "second", n: props.second },
      { as: "mend", n: props.mend },
      { as: "broken", n: props.broken },
    ];
    let sum = 0;
    return { upTo, as: counted.find((c) => (sum += c.n) >= upTo)?.as ?? "open" };
  }),
);
const words: Record<string, string> = {
  done: t("done"),
  second: t("second"),
  mend: t("to mend"),
  broken: t("broken"),
  open: t("to do"),
};
const reach = (upTo: number) => emit("reach", upTo === props.done ? Math.max(0, upTo - each.value) : upTo);
</script>

<template>
  <div
    class="pieces"
    role="group"
    :aria-label="$t('{done} of {of} in this run are done', { done, of })"
    data-test="pieces"
  >
    <button
      v-for="p in drawn"
      :key="p.upTo"
      :class="p.as"
      :aria-label="$t('piece {upTo}: {as}', { upTo: p.upTo, as: words[p.as] })"
      :data-test="`piece-${p.upTo}`"
      @click="reach(p.upTo)"
    >
      <PartDrawing :form="form" :colour="p.as === 'open' ? 'none' : colour" :size="34" />
      <span v-if="p.as === 'second'" class="mark">2</span>
      <span v-else-if="p.as === 'mend'" class="mark">+</span>
      <span v-else-if="p.as === 'broken'" class="mark">×</span>
    </button>
    <span v-if="each > 1" class="quiet">each stands for {{ each }}</span>
  </div>
</template>

<style scoped>
.pieces {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  margin-bottom: 0.8rem;
}
button {
  position: relative;
  min-width: 56px;
  min-height: 56px;
  padding: 0;
  border: 0;
  background: none;
  cursor: pointer;
  color: var(--ink);
}
.open {
  opacity: 0.4;
}
.mark {
  position: absolute;
  right: 4px;
  bottom: 2px;
  min-width: 1.3rem;
  font: 700 1rem var(--count);
  background: var(--sheet);
  border-radius: 50%;
}
.broken .mark {
  color: var(--late);
}
</style>
