<script setup lang="ts">
import { computed } from "vue";
import { plain } from "../../format";
import type { Writing } from "./writing";

/** What is done on the picture itself with the row that was pointed at: more, fewer, larger, smaller. */
const props = defineProps<{ w: Writing; input: number }>();
const line = computed(() => props.w.root.value?.parts?.[props.input]);
const part = computed(() => props.w.recipes.value.find((r) => r.id === line.value?.recipe));
const shape = computed(() => part.value?.pastes?.[0]?.shape);
const across = computed(() => shape.value?.lengthMicrometres ?? shape.value?.diameterMicrometres);

/** One more or fewer in its last row. */
function more(by: number) {
  const i = props.input;
  props.w.editOf(props.w.root.value!.id, (r) => {
    const p = r.parts![i]!;
    if (p.count + by < 1) return;
    if (p.rows?.length) p.rows[p.rows.length - 1] = Math.max(1, p.rows.at(-1)! + by);
    p.count = p.rows?.length ? p.rows.reduce((a, b) => a + b, 0) : p.count + by;
    if (p.least !== undefined) p.least = Math.min(p.least, p.count);
    if (p.atMicrometres?.length) p.atMicrometres = undefined;
  });
}
/** A millimetre longer or shorter, the width with it. */
function larger(by: number) {
  if (!part.value || !across.value) return;
  props.w.editOf(part.value.id, (r) => {
    const g = r.pastes![0]!.shape;
    const now = g.lengthMicrometres ?? g.diameterMicrometres ?? 0;
    const scale = (now + by) / now;
    const sized = (v: number | undefined) => (v ? Math.max(500, Math.round((v * scale) / 100) * 100) : v);
    g.lengthMicrometres = sized(g.lengthMicrometres);
    g.widthMicrometres = sized(g.widthMicrometres);
    g.diameterMicrometres = sized(g.diameterMicrometres);
  });
}
</script>

<template>
  <div v-if="line && part" class="ring sheet" data-test="ring">
    <b>{{ part.name }}</b>
    <span>
      <button class="bare" aria-label="One fewer" data-test="ring-fewer" @click="more(-1)">−</button>
      {{ line.rows?.length ? line.rows.join(" + ") : line.count }}
      <button class="bare" aria-label="One more" data-test="ring-more" @click="more(1)">+</button>
    </span>
    <span v-if="across">
      <button class="bare" aria-label="Smaller" data-test="ring-smaller" @click="larger(-1000)">−</button>
      {{ plain(across / 1000) }} mm
      <button class="bare" aria-label="Larger" data-test="ring-larger" @click="larger(1000)">+</button>
    </span>
  </div>
</template>

<style scoped>
.ring {
  display: flex;
  gap: 14px;
  align-items: baseline;
  padding: 3px 10px;
  font-size: 0.9rem;
}
.ring b {
  flex: 1;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
button {
  color: var(--leaf);
  font-weight: 700;
  font-size: 1.2rem;
  padding: 0 6px;
}
</style>
