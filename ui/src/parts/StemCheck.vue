<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { reactive, ref } from "vue";
import { answered, client, type Schemas } from "../api/client";
import { lengthFigure, plain } from "../format";
import { lengthScale, lengthUnit } from "../manner";
import NumberField from "./NumberField.vue";
import ProblemNote from "./ProblemNote.vue";
import WorkingSheet from "./WorkingSheet.vue";
import { t } from "../words/said";

/** Does each stem hold its head, which wire would, and how much tape one takes. */
defineProps<{ stems: Schemas["Stem"][] }>();
const opened = ref<string>();
const words: Record<string, string> = {
  holds: t("holds"),
  nods: t("nods"),
  hangs: t("hangs"),
  bends: t("bends for good"),
};
/** Millimetres in the unit of lengths here. */
const here = (mm: number) => Number(((mm * 1000) / lengthScale()).toFixed(2));
const tape = reactive({
  along: here(120),
  thick: here(2.5),
  wide: here(12),
  overlap: 50,
  stretched: 30,
  turns: 3,
  halfWidth: false,
});
const reckon = useMutation({
  mutationFn: () =>
    answered(
      client.POST("/api/wires/tape", {
        body: {
          alongMicrometres: Math.round(tape.along * lengthScale()),
          thickMicrometres: Math.round(tape.thick * lengthScale()),
          wideMicrometres: Math.round(tape.wide * lengthScale()),
          overlapPerMille: Math.round(tape.overlap * 10),
          stretchedPerMille: Math.round(1000 + tape.stretched * 10),
          turns: tape.turns,
          halfWidth: tape.halfWidth,
        },
      }),
    ),
});
/** How far a stem of 60 units bends, drawn: its free end falls as the sine of twice the mean slope. */
const bend = (degrees: number) => {
  const a = (Math.min(degrees, 80) * Math.PI) / 180;
  return `M4 14 Q 34 14 ${4 + 58 * Math.cos(a / 1.5)} ${14 + 58 * Math.sin(a / 1.5)}`;
};
const head = (degrees: number) => {
  const a = (Math.min(degrees, 80) * Math.PI) / 180;
  return { cx: 4 + 58 * Math.cos(a / 1.5), cy: 14 + 58 * Math.sin(a / 1.5) };
};
</script>

<template>
  <section class="sheet stems" data-test="stems">
    <div>
      <h2>Will it hold?</h2>
      <p class="quiet">Held level, up to 10° it holds, to 25° it nods. An estimate: hold one level and look.</p>
      <table class="ledger">
        <tbody v-for="s in stems" :key="`${s.recipe}/${s.variant}`">
          <tr :data-test="`stem-${s.name}`">
            <td>
              <svg
                viewBox="0 0 80 44"
                width="80"
                height="44"
                role="img"
                :aria-label="$t('{degrees}° of sag', { degrees: plain(s.degrees) })"
              >
                <path :d="bend(s.degrees)" class="wire" />
                <circle v-bind="head(s.degrees)" r="6" class="head" />
              </svg>
            </td>
            <td>
              <button class="bare name" @click="opened = opened === s.recipe ? undefined : s.recipe">
                {{ s.name }}</button><br />
              <span class="quiet"
                >{{ s.number > 1 ? $t("{number} wires of ", { number: s.number }) : "" }}gauge {{ s.gauge }},
                {{ plain(s.degrees) }}°</span
              >
            </td>
            <td>
              <span class="word" :class="s.holds === 'holds' ? 'safe' : s.holds === 'nods' ? 'tight' : 'late'">{{
                words[s.holds]
              }}</span>
            </td>
            <td>
              <template v-if="s.holds !== 'holds' && s.betterGauge"
                >{{ s.betterWires! > 1 ? $t("{betterWires} of ", { betterWires: s.betterWires }) : "" }}gauge
                {{ s.betterGauge }} would hold</template
              >
              <template v-else-if="s.holds !== 'holds'">no wire of the studio would hold it</template>
              <span v-else-if="s.betterGauge && s.betterGauge !== s.gauge" class="quiet"
                >gauge {{ s.betterGauge }} would too</span
              >
            </td>
          </tr>
          <tr v-if="opened === s.recipe">
            <td colspan="4"><WorkingSheet :workings="[s.working]" /></td>
          </tr>
        </tbody>
      </table>
    </div>
    <form @submit.prevent="reckon.mutate()">
      <h2>How much tape?</h2>
      <div class="fields">
        <label>along <NumberField v-model="tape.along" /> {{ lengthUnit() }}</label>
        <label>stem thick <NumberField v-model="tape.thick" data-test="tape-thick" /> {{ lengthUnit() }}</label>
        <label>tape wide <NumberField v-model="tape.wide" /> {{ lengthUnit() }}</label>
        <label>overlap <NumberField v-model="tape.overlap" /> %</label>
        <label>stretched by <NumberField v-model="tape.stretched" /> %</label>
        <label>turns at joints <NumberField whole v-model="tape.turns" /></label>
        <label><input v-model="tape.halfWidth" type="checkbox" /> cut to half width</label>
      </div>
      <v-btn type="submit" variant="tonal" data-test="tape-go">Reckon</v-btn>
      <span v-if="reckon.data.value" class="answer" data-test="tape-answer"
        ><span class="figure">{{ lengthFigure(reckon.data.value.lengthMicrometres) }}</span
        ><span class="unit">&nbsp;{{ lengthUnit() }} of tape each</span></span
      >
      <ProblemNote :error="reckon.error.value" />
    </form>
  </section>
</template>

<style scoped>
.stems {
  display: grid;
  grid-template-columns: 1.6fr 1fr;
  gap: 30px;
  padding: 16px 20px;
  margin-bottom: 12px;
}
.wire {
  fill: none;
  stroke: var(--leaf);
  stroke-width: 2.5;
}
.head {
  fill: var(--petal);
}
.name {
  font-weight: 600;
}
.fields {
  display: grid;
  gap: 6px;
  margin: 8px 0 12px;
}
.answer {
  margin-left: 14px;
}
@media (max-width: 980px) {
  .stems {
    grid-template-columns: 1fr;
  }
}
</style>
