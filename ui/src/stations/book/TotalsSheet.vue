<script setup lang="ts">
import { computed } from "vue";
import type { Schemas } from "../../api/client";
import Swatch from "../../drawings/Swatch.vue";
import NumberField from "../../parts/NumberField.vue";
import BatchNote from "../../parts/BatchNote.vue";
import { lasting, length, mass, massFigure, money, plain } from "../../format";
import { manner, massUnit } from "../../manner";
import { totalWords } from "../../words";
import { differenceWords } from "../../words/differences";
import RunsOrPhases from "./RunsOrPhases.vue";

/** What one flower comes to, or so many of them begun together. */
const props = defineProps<{
  sheet: Schemas["Sheet"];
  cost?: Schemas["Each"];
  old: boolean;
  against: Schemas["Difference"][];
}>();
const emit = defineEmits<{ school: [chosen: Schemas["School"]] }>();
const quantity = defineModel<number>({ required: true });
const minutes = (m: number) => plain(Math.round(m / 100) / 10);
const pieces = computed(() => props.sheet.pieces.filter((p) => p.kind === "part").reduce((sum, p) => sum + p.count, 0));
const wires = computed(() => props.sheet.wires.reduce((sum, w) => sum + w.number, 0));
const mix = computed(() => props.sheet.portrait.kind === "mix");
const amount = (m: Schemas["Amount"]) =>
  m.unit === "mg" ? `${mass(m.amount)}` : m.unit === "µm" ? `${plain(m.amount / 1_000_000)} m` : plain(m.amount);
</script>

<template>
  <section class="sheet totals" :class="{ old }" data-test="totals">
    <h2 class="lesser" v-if="mix">Of 100 g</h2>
    <h2 class="lesser" v-else>
      Of
      <NumberField v-model="quantity" whole name="quantity" aria-label="How many" />
      {{ sheet.portrait.name }}
    </h2>
    <p v-if="old" class="quiet">As it was before what is wrong now.</p>
    <div class="large">
      <div v-if="!mix">
        <span class="figure">{{ pieces }}</span> <span class="unit">parts</span>
      </div>
      <div>
        <span class="figure">{{ minutes(sheet.attendedMilliminutes) }}</span> <span class="unit">min at the bench</span>
      </div>
      <div>
        <span class="figure">{{ lasting(sheet.elapsedMinutes) }}</span>
        <span class="unit" title="from the first cut to done, hands always free, in standard air">alone</span>
      </div>
      <div v-if="!mix">
        <span class="figure">{{ massFigure(sheet.massMilligrams) }}</span>
        <span class="unit">{{ massUnit() }} each</span>
      </div>
    </div>
    <p class="quiet">
      and {{ minutes(sheet.setupMilliminutes) }} min of setup, once a lot{{ wires ? `; ${wires} wires` : "" }}
    </p>
    <p v-if="cost?.total && manner.money && !mix" data-test="flower-cost">
      <b>{{ money(cost.one) }}</b> <span class="unit">each</span>
      <span class="quiet">
        {{
          $t("hours {labour}, materials {materials}", {
            labour: money(cost.labour + cost.house),
            materials: money(cost.materials),
          })
        }}<template v-if="cost.unpriced.length"
          >; {{ $t("{n} material has no price | {n} materials have no price", cost.unpriced.length) }}</template
        >
      </span>
    </p>
    <BatchNote v-if="sheet.batch" :batch="sheet.batch" />
    <RunsOrPhases v-if="sheet.schools?.length" :schools="sheet.schools" @choose="emit('school', $event)" />
    <p v-if="sheet.missing.length" class="missing">No mix for {{ sheet.missing.join(", ") }} in this colourway.</p>
    <dl>
      <template v-for="p in sheet.pastes" :key="p.mix">
        <dt><Swatch :colour="p.colour" :size="13" /> {{ p.name }}</dt>
        <dd>
          {{ massFigure(p.massMilligrams) }} <span class="unit">{{ massUnit() }}</span>
        </dd>
      </template>
      <template v-for="(w, i) in sheet.wires" :key="`w${i}`">
        <dt>{{ w.name }}, {{ length(w.lengthMicrometres) }}</dt>
        <dd>{{ w.number }}</dd>
      </template>
      <template v-for="m in sheet.materials" :key="m.material">
        <dt>{{ m.name }}</dt>
        <dd>{{ amount(m) }}</dd>
      </template>
    </dl>
    <template v-if="against.length">
      <h2 class="lesser">Against the recipe as it is</h2>
      <dl data-test="against">
        <template v-for="d in against" :key="d.what + d.of">
          <dt>{{ totalWords(d) }}</dt>
          <dd>{{ differenceWords(d) }}</dd>
        </template>
      </dl>
    </template>
  </section>
</template>

<style scoped>
[data-test="flower-cost"] .quiet {
  display: block;
}
.totals {
  padding: 10px 14px;
  margin-bottom: 10px;
}
.totals.old .large,
.totals.old dl {
  opacity: 0.45;
}
h3 input {
  font: inherit;
  width: 52px;
  border: 0;
  border-bottom: 1px solid var(--vein);
  background: none;
  color: inherit;
}
.large {
  display: grid;
  grid-template-columns: auto auto;
  gap: 4px 14px;
  margin: 6px 0 2px;
}
.figure {
  font-size: 1.2667rem;
  margin-right: 3px;
}
p {
  margin: 2px 0 6px;
}
.missing {
  color: var(--late);
  font-weight: 600;
}
dl {
  display: grid;
  grid-template-columns: 1fr auto;
  margin: 0;
  font-size: 0.9rem;
}
dt,
dd {
  margin: 0;
  padding: 2px 0;
  border-top: 1px solid var(--vein);
}
dd {
  text-align: right;
}
</style>
