<script setup lang="ts">
import type { Schemas } from "../api/client";
import { grams, plain } from "../format";

/** How a figure was worked out: rule by rule, what went in and what came out. */
defineProps<{ workings: Schemas["Working"][] }>();

const rules: Record<string, string> = {
  net: "Needed, less what lies on the shelf and what is in work",
  compounding: "What it goes into has spares too, and they need it",
  pooling: "Orders that share it share its spares",
  "to buy": "Taken by the plan and kept in reserve, less what is there or on its way",
  "spares by breakage": "The fewest to start so that enough come out good often enough",
  "spares by number": "A fixed number of spares is added",
  "spares by percent": "Spares are a share of what is needed",
  "spares by none": "No spares",
  split: "Split evenly, so that no lot overfills its formers",
  duration: "Setup and pieces, by the maker's pace",
  drying: "Read off the drying clock; an estimate, touch decides",
  "fixed wait": "A fixed time",
  "proportion cone": "A cone is about three quarters as high as the first petal that closes over it",
  "proportion wire":
    "Held level, the head bends its stem: mass × gravity × length² ÷ (2 × stiffness × wires × bending figure of the gauge)",
  "proportion former": "What lies in a cup is about as wide as the cup",
  "proportion cutter": "What is cut, less what paste shrinks by as it dries",
  mix: "The larger of need with loss and one working sheet",
};
const amount = (f: Schemas["Figure"]) => (f.unit === "mg" ? `${grams(f.value)} g` : `${plain(f.value)} ${f.unit}`);
</script>

<template>
  <ol class="working">
    <li v-for="(w, i) in workings" :key="i">
      <p>{{ rules[w.rule] ?? w.rule }}</p>
      <dl>
        <template v-for="f in w.inputs" :key="f.name">
          <dt>{{ f.name }}</dt>
          <dd>{{ amount(f) }}</dd>
        </template>
        <dt class="result">{{ w.result.name }}</dt>
        <dd class="result">{{ amount(w.result) }}</dd>
      </dl>
      <p v-if="w.rounding" class="quiet">Rounded {{ w.rounding }}.</p>
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
