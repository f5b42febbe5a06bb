<script setup lang="ts">
import { useMutation, useQuery } from "@tanstack/vue-query";
import { useLocalStorage } from "@vueuse/core";
import { computed, onBeforeUnmount, ref, watch } from "vue";
import { answered, client, type Schemas, useCommands } from "../api/client";
import Swatch from "../drawings/Swatch.vue";
import { mass, massFigure, plain } from "../format";
import { massUnit } from "../manner";
import { typed as numberOf } from "../number";
import ProblemNote from "../parts/ProblemNote.vue";
import { tooLittleWords } from "../words";
import { t } from "../words/said";

/** Weighing in a mix, one ingredient after the other, by the scale or by typed figures. */
const props = defineProps<{ mix: Schemas["MixCard"] }>();
const emit = defineEmits<{ close: [] }>();
const send = useCommands();

// What is in the bowl is kept by the browser, so that nothing is lost on the way.
const remembered = `bractum.weighing.${props.mix.lot}`;
const weighed = useLocalStorage<(number | null)[]>(
  remembered,
  props.mix.weigh.map(() => null),
);
const at = ref(
  Math.max(
    0,
    weighed.value.findIndex((w) => w === null),
  ),
);
const typed = ref("");

const weighing = useQuery({
  queryKey: ["weighing", props.mix.lot, weighed],
  queryFn: () =>
    answered(
      client.POST("/api/mixing/{lot}/weigh-in", {
        params: { path: { lot: props.mix.lot } },
        body: { weighed: weighed.value },
      }),
    ),
  placeholderData: (before: Schemas["Weighing"] | undefined) => before,
});
const line = computed(() => weighing.data.value?.lines[at.value]);

const scale = ref<Schemas["ScaleView"]>();
let watching = true;
async function follow() {
  while (watching) {
    try {
      scale.value = await answered(client.GET("/api/scale"));
    } catch {
      scale.value = undefined;
    }
    await new Promise((done) => setTimeout(done, 350));
  }
}
void follow();
onBeforeUnmount(() => (watching = false));

const tare = useMutation({ mutationFn: () => answered(client.POST("/api/scale/tare")) });
const shown = computed(() => (scale.value?.answers ? Math.max(0, scale.value.milligrams) : undefined));
/** How full the bar is: the target stands at four fifths of it. */
const fill = computed(() =>
  line.value && shown.value !== undefined
    ? Math.min(100, (80 * shown.value) / Math.max(1, line.value.pourMilligrams))
    : 0,
);
const band = computed(() =>
  line.value ? Math.max(1.2, (80 * line.value.toleranceMilligrams) / Math.max(1, line.value.pourMilligrams)) : 1,
);

function take(milligrams: number) {
  const before = weighed.value[at.value] ?? 0;
  weighed.value = weighed.value.map((w, i) => (i === at.value ? before + milligrams : w));
  typed.value = "";
  void tare.mutateAsync().catch(() => undefined);
}
function takeTyped() {
  const value = numberOf(typed.value);
  if (Number.isFinite(value) && value > 0) take(Math.round(value * 1000));
}
function again(i: number) {
  weighed.value = weighed.value.map((w, k) => (k === i ? null : w));
  at.value = i;
}
watch(
  () => weighing.data.value,
  (now) => {
    if (!now) return;
    const next = now.lines.findIndex((l) => l.pourMilligrams > 0);
    if (now.lines[at.value]?.pourMilligrams === 0 && next >= 0) at.value = next;
  },
);

const book = useMutation({
  mutationFn: () => {
    const body = { weighed: weighed.value.map((w) => w ?? 0) };
    const task = props.mix.task?.id ?? "";
    return send([task, body], (header) =>
      answered(client.POST("/api/tasks/{task}/weigh", { params: { header, path: { task } }, body })),
    );
  },
  onSuccess: () => {
    localStorage.removeItem(remembered);
    emit("close");
  },
});
const states: Record<string, string> = {
  "to weigh": "",
  "too little": t("more of it"),
  right: t("in the bowl"),
  "over-poured": "more than wanted; the others follow",
};
</script>

<template>
  <v-dialog :model-value="true" :aria-label="mix.name" fullscreen @update:model-value="emit('close')">
    <div class="sheet weigh" data-test="weigh-in">
      <div class="top">
        <h1><Swatch :colour="mix.colour" :size="34" /> {{ mix.name }}</h1>
        <p class="quiet">
          Clean hands, clean board, tied hair.
          <a v-if="scale?.address" :href="scale.address" target="_blank" rel="noopener" class="add">the scale</a>
        </p>
        <v-btn variant="text" size="large" data-test="weigh-close" @click="emit('close')">Leave it for now</v-btn>
      </div>
      <div class="two">
        <section v-if="line && !weighing.data.value?.done">
          <p class="name">
            <Swatch v-if="mix.weigh[at]?.colour" :colour="mix.weigh[at]!.colour!" :size="30" />
            {{ mix.weigh[at]?.name }}
          </p>
          <p class="target">
            <span class="huge" data-test="pour">{{
              line.tooLittle ? plain(line.pourMilligrams) : massFigure(line.pourMilligrams)
            }}</span><span class="unit"> {{ line.tooLittle ? "mg" : massUnit() }} to pour</span>
            <span v-if="mix.weigh[at]?.drops" class="unit">, {{ mix.weigh[at]!.drops }} drops</span>
            <span v-if="line.tooLittle" class="quiet"> {{ tooLittleWords(mix.leastMilligrams) }}</span>
            <span class="quiet"> give or take {{ mass(line.toleranceMilligrams) }}</span>
          </p>
          <div class="bar" :class="{ still: scale?.stable }">
            <span :style="{ width: `${fill}%` }" />
            <i :style="{ left: `${80 - band}%`, width: `${2 * band}%` }" />
          </div>
          <p class="reads">
            <template v-if="shown !== undefined"
              ><span class="huge" data-test="reads">{{ massFigure(scale!.milligrams) }}</span
              ><span class="unit"
                >&nbsp;{{ massUnit() }} on the scale{{ scale!.stable ? "" : $t(", still moving") }}</span
              ></template
            >
            <span v-else class="says" data-test="scale-says">{{
              scale?.connected === false
                ? "No scale is connected; type the figures."
                : (scale?.says ?? $t("Looking for the scale…"))
            }}</span>
          </p>
          <div class="acts">
            <v-btn
              size="x-large"
              color="primary"
              :disabled="!shown || !scale?.stable"
              data-test="take-reading"
              @click="take(shown!)"
              >Take what it reads</v-btn
            >
            <v-btn
              size="x-large"
              variant="tonal"
              :disabled="shown === undefined"
              data-test="tare"
              @click="tare.mutate()"
              >Set to nothing</v-btn
            >
            <form @submit.prevent="takeTyped">
              <input
                v-model="typed"
                inputmode="decimal"
                aria-label="grams"
                placeholder="or type grams"
                data-test="typed"
              />
              <v-btn size="x-large" variant="tonal" type="submit" data-test="take-typed">Take it</v-btn>
            </form>
          </div>
          <ProblemNote :error="tare.error.value" />
        </section>
        <section v-else-if="weighing.data.value" class="done">
          <p class="huge">
            {{ massFigure(weighing.data.value.mixedMilligrams)
            }}<span class="unit">&nbsp;{{ massUnit() }} in the bowl</span>
          </p>
          <p v-if="weighing.data.value.factorPerMille > 1000">
            {{ mass(mix.toMixMilligrams) }} were wanted; all of it was scaled to what was poured.
          </p>
          <v-btn size="x-large" color="primary" data-test="weigh-book" :disabled="!mix.task" @click="book.mutate()"
            >Book it, and knead</v-btn
          >
          <p v-if="!mix.task" class="quiet">The plan has no time for this mixing yet; look at the plan first.</p>
        </section>
        <table class="ledger">
          <tbody>
            <tr v-for="(l, i) in weighing.data.value?.lines" :key="i" :class="{ here: i === at }">
              <td>
                <Swatch v-if="mix.weigh[i]?.colour" :colour="mix.weigh[i]!.colour!" :size="18" />
                {{ mix.weigh[i]?.name }}
              </td>
              <td class="n">
                <b>{{ massFigure(l.targetMilligrams) }}</b> <span class="unit">{{ massUnit() }}</span>
              </td>
              <td class="n" :data-test="`weighed-${i}`">
                {{ l.weighedMilligrams === undefined ? "" : massFigure(l.weighedMilligrams) }}
              </td>
              <td>
                <span v-if="states[l.state]" :class="l.state === 'right' ? 'word safe' : 'word tight'">{{
                  states[l.state]
                }}</span>
              </td>
              <td>
                <button v-if="l.weighedMilligrams !== undefined" class="bare add" @click="again(i)">weigh again</button>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <ProblemNote :error="weighing.error.value ?? book.error.value" />
    </div>
  </v-dialog>
</template>

<style scoped>
.weigh {
  padding: 22px 34px;
  min-height: 100vh;
  overflow: auto;
}
.top {
  display: flex;
  justify-content: space-between;
  align-items: center;
}
.two {
  display: grid;
  grid-template-columns: 1.1fr 1fr;
  gap: 40px;
  align-items: start;
  margin-top: 10px;
}
.name {
  font-family: var(--name);
  font-size: 2rem;
  margin: 8px 0;
}
.huge {
  font-size: 4.9333rem;
  line-height: 1.05;
  font-weight: 640;
}
.huge .unit,
.target .unit,
.reads .unit {
  font-size: 1.4667rem;
  font-weight: 400;
}
.target,
.reads {
  margin: 4px 0;
}
.says {
  font-size: 1.2667rem;
  font-weight: 600;
}
.bar {
  position: relative;
  height: 34px;
  background: var(--vein);
  border-radius: 3px 12px 3px 12px;
  overflow: hidden;
}
.bar span {
  position: absolute;
  inset: 0 auto 0 0;
  background: var(--dust);
}
.bar.still span {
  background: var(--leaf);
}
.bar i {
  position: absolute;
  inset: 0 auto 0 auto;
  border: 2px solid var(--ink);
  border-width: 0 2px;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  margin-top: 10px;
}
form {
  display: flex;
  gap: 8px;
}
input {
  font: inherit;
  font-size: 1.6rem;
  width: 12rem;
  padding: 8px 12px;
  border: 1px solid var(--soft);
  border-radius: 2px 9px 2px 9px;
  background: var(--sheet);
  color: inherit;
}
tr.here td {
  background: var(--leaf-wash);
}
.ledger td {
  font-size: 1.2rem;
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: 1fr;
  }
}
@media print {
  .acts,
  .bar,
  .reads {
    display: none;
  }
}
</style>
