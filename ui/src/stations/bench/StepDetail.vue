<script setup lang="ts">
import { computed } from "vue";
import type { Schemas } from "../../api/client";
import PartDrawing from "../../drawings/PartDrawing.vue";
import Swatch from "../../drawings/Swatch.vue";
import {
  boughtWords,
  freshWords,
  layWords,
  outWords,
  partWords,
  pasteWords,
  shapeWords,
  toolWords,
  wantsWords,
  wireWords,
} from "../../words/card";

/** All that one step asks for, in large words, in the order in which hands want it. */
const props = defineProps<{ step: Schemas["CardStep"] }>();
const tools = computed(() => {
  const all = (props.step.tools ?? []).map(toolWords);
  const said = props.step.tool;
  return said && !all.includes(said) ? [said, ...all] : all;
});
</script>

<template>
  <ul class="asks">
    <li v-for="p in step.pastes" :key="p.mix + p.where">
      <Swatch :colour="p.colour ?? ''" :size="26" />
      <span>
        <b>{{ p.mix }}</b>, {{ shapeWords(p) }}<template v-if="p.where">: {{ p.where }}</template>
        <small>{{ pasteWords(p) }}</small>
      </span>
    </li>
    <li v-for="w in step.wires" :key="w.name + w.lengthMicrometres">
      <svg width="26" height="26" viewBox="0 0 26 26" aria-hidden="true"><path d="M3 23C12 21 8 8 16 8s6 6 7 2" /></svg>
      <span>
        {{ wireWords(w) }} <small>{{ w.all }} in all</small>
      </span>
    </li>
    <li v-for="p in step.parts" :key="p.name + p.of + p.wants">
      <PartDrawing :form="p.form" :colour="p.colour" :size="26" />
      <span>
        {{ partWords(p) }}
        <small>{{
          p.now < p.all
            ? $t("{now} for this run, {all} in all", { now: p.now, all: p.all })
            : $t("{all} in all", { all: p.all })
        }}</small>
      </span>
    </li>
    <li v-for="m in step.materials" :key="m.name">
      <i class="dot" /> <span>{{ boughtWords(m) }}</span>
    </li>
    <li v-for="m in step.out" :key="m.name" class="out">
      <i class="dot" /> <b>{{ outWords(m) }}</b>
    </li>
    <li v-for="t in tools" :key="t" data-test="tool"><i class="dot" /> take: {{ t }}</li>
    <li v-if="(step.together ?? 0) > 1"><i class="dot" /> {{ step.together }} at once</li>
    <li v-for="l in step.lay" :key="l.place" data-test="lay">
      <svg width="26" height="26" viewBox="0 0 26 26" aria-hidden="true"><path d="M3 9c2 10 18 10 20 0" /></svg>
      <span>lay them in: {{ layWords(l) }}</span>
    </li>
    <li v-if="step.wants" class="fresh"><i class="dot" /> work on it {{ wantsWords(step.wants) }}</li>
    <li v-for="f in step.fresh" :key="f.after + f.before" class="fresh"><i class="dot" /> {{ freshWords(f) }}</li>
  </ul>
  <p v-if="step.look" class="look"><b>Look for:</b> {{ step.look }}</p>
  <p v-if="step.mayMend" class="quiet">What is weak can be mended afterwards: count it as “to mend”.</p>
  <details v-if="step.mistakes?.length" class="wrong">
    <summary>What goes wrong here</summary>
    <p v-for="m in step.mistakes" :key="m.what">
      <b>{{ m.what }}.</b> {{ m.why }}
    </p>
  </details>
  <img
    v-if="step.picture"
    class="picture"
    :src="`/api/book/pictures/${step.picture}`"
    :alt="$t('a picture of “{name}”', { name: step.name })"
    loading="lazy"
  />
</template>

<style scoped>
.asks {
  list-style: none;
  padding: 0;
  margin: 0 0 0.8rem;
  font-size: 1.25rem;
  line-height: 1.3;
  display: grid;
  gap: 0.45rem;
}
.asks li {
  display: grid;
  grid-template-columns: 30px 1fr;
  gap: 0.6rem;
  align-items: start;
}
.asks svg path {
  fill: none;
  stroke: var(--wire);
  stroke-width: 2.4;
}
small {
  display: block;
  color: var(--soft);
  font-size: 1rem;
}
.dot {
  width: 9px;
  height: 9px;
  margin: 0.45rem 0 0 9px;
  border-radius: 50%;
  background: var(--wire);
}
.fresh .dot {
  background: var(--petal);
}
.out b {
  color: var(--late);
}
.look,
.wrong {
  font-size: 1.15rem;
  margin: 0 0 0.6rem;
}
summary {
  cursor: pointer;
  min-height: 2.4rem;
  color: var(--soft);
}
.wrong p {
  margin: 0 0 0.4rem;
}
.picture {
  max-width: 100%;
  max-height: 300px;
  border-radius: 3px 14px;
}
</style>
