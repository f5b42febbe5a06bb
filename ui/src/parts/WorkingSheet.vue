<script setup lang="ts">
import type { Schemas } from "../api/client";
import { lasting, mass, money, plain } from "../format";
import { figureWords, roundingWords, ruleWords } from "../words";

/** How a figure was worked out: rule by rule, what went in and what came out. */
defineProps<{ workings: Schemas["Working"][] }>();

function amount(f: Schemas["Figure"]): string {
  if (f.unit === "money") return money(f.value);
  if (f.unit === "mg") return `${mass(f.value)}`;
  if (f.unit === "min" && f.value >= 24 * 60) return lasting(f.value);
  return `${plain(f.value)} ${f.unit}`;
}
</script>

<template>
  <ol class="working">
    <li v-for="(w, i) in workings" :key="i">
      <p>{{ ruleWords(w.rule) }}</p>
      <dl>
        <template v-for="f in w.inputs" :key="f.name + (f.of ?? '')">
          <dt>{{ figureWords(f) }}</dt>
          <dd>{{ amount(f) }}</dd>
        </template>
        <dt class="result">{{ figureWords(w.result) }}</dt>
        <dd class="result">{{ amount(w.result) }}</dd>
      </dl>
      <p v-if="w.rounding" class="quiet">{{ roundingWords(w.rounding) }}</p>
    </li>
  </ol>
</template>

<style scoped>
.working {
  list-style: none;
  padding: 0;
  margin: 12px 0;
}
li {
  padding: 10px 0;
  border-top: 1px solid var(--vein);
}
p {
  margin: 0 0 6px;
  font-weight: 600;
}
p.quiet {
  font-weight: 400;
}
dl {
  display: grid;
  grid-template-columns: 1fr auto;
  margin: 0;
  row-gap: 3px;
}
dd {
  margin: 0;
  text-align: right;
}
.result {
  font-weight: 700;
  border-top: 1px solid var(--ink);
  padding-top: 3px;
}
</style>
