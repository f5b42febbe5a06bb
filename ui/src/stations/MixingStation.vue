<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { computed, ref, watch } from "vue";
import { useRoute } from "vue-router";
import { answered, client, type Schemas, useCommands } from "../api/client";
import { useMix, useMixing, useStudio } from "../api/queries";
import ShadeLadder from "../drawings/ShadeLadder.vue";
import Swatch from "../drawings/Swatch.vue";
import { fineMassFigure, lasting, mass, massFigure, plain, useTimes } from "../format";
import { massUnit } from "../manner";
import DaySpan from "../parts/DaySpan.vue";
import LaterDays from "../parts/LaterDays.vue";
import MaterialList from "../parts/MaterialList.vue";
import NoteList from "../parts/NoteList.vue";
import ProblemNote from "../parts/ProblemNote.vue";
import StationHead from "../parts/StationHead.vue";
import WorkingSheet from "../parts/WorkingSheet.vue";
import { noteWords, tooLittleWords } from "../words";
import WeighIn from "./WeighIn.vue";
import { t } from "../words/said";

/** How many days are shown; the rest is said a line each. */
const shownDays = ref(2);
const { data: mixing, error } = useMixing(shownDays);
const { data: studio } = useStudio();
const times = useTimes();
const openedLot = ref<string>();
const { data: opened } = useMix(openedLot);
const weighing = ref<Schemas["MixCard"]>();
/** A mix that is to be weighed in at once, by its name. */
const wanted = useRoute().query.weigh;
const asked = watch(
  () => mixing.value?.mixes.find((m) => m.name === wanted && m.task && !m.weighed),
  (mix) => {
    if (!mix) return;
    asked.stop();
    weighing.value = mix;
  },
);
const named = (mix: string) => mixing.value?.mixes.find((m) => m.mix === mix);
const ladders = computed(() =>
  (mixing.value?.ladders ?? []).map((l) => ({
    key: l.lot,
    deep: {
      name: named(l.mix)?.name ?? "",
      colour: named(l.mix)?.colour ?? "",
      milligrams: l.asIsMilligrams,
      whole: l.weighMilligrams,
    },
    shades: l.shades.map((s) => ({
      name: named(s.mix)?.name ?? "",
      colour: named(s.mix)?.colour ?? "",
      takes: s.takesMilligrams,
      makes: s.makesMilligrams,
      share: s.deepPerMille,
    })),
  })),
);
const later = computed(() =>
  (mixing.value?.later ?? []).map((d) => ({
    day: d.day,
    says: t("{n} mixing | {n} mixings", d.mixings) + ", " + mass(d.toMixMilligrams),
  })),
);
const laterSays = computed(() => {
  const all = mixing.value?.later ?? [];
  const mixings = t(
    "{n} mixing more, later | {n} mixings more, later",
    all.reduce((sum, d) => sum + d.mixings, 0),
  );
  return `${mixings}, ${mass(all.reduce((sum, d) => sum + d.toMixMilligrams, 0))}`;
});

const days = computed(() => {
  const groups = new Map<string, Schemas["MixCard"][]>();
  const mixes = [...(mixing.value?.mixes ?? [])].sort((a, b) => (a.task?.start ?? 1e9) - (b.task?.start ?? 1e9));
  for (const mix of mixes) {
    const day = mix.task ? times.value.day(mix.task.start) : t("Without a time in the plan");
    groups.set(day, [...(groups.get(day) ?? []), mix]);
  }
  return [...groups].map(([day, mixes]) => ({
    day,
    mixes,
    grams: mixes.reduce((sum, m) => sum + (m.weighed ? 0 : m.toMixMilligrams), 0),
    open: mixes.filter((m) => !m.weighed).length,
  }));
});
const today = computed(() => times.value.day(studio.value?.now ?? 0));
const says = computed(() => {
  const now = days.value.find((d) => d.day === today.value);
  return now?.open
    ? t("{mixings} today, {mass} in all", { mixings: t("{n} mixing | {n} mixings", now.open), mass: mass(now.grams) })
    : t("Nothing more to weigh today");
});
/** What the lots that could be one weighing come to. */
const onceWeighed = (lots: string[]) =>
  (mixing.value?.mixes ?? []).reduce((sum, m) => sum + (lots.includes(m.lot) ? m.toMixMilligrams : 0), 0);
const send = useCommands();
const join = useMutation({
  mutationFn: (lots: string[]) => {
    const [first, ...others] = lots;
    return send(lots, (header) =>
      answered(
        client.POST("/api/lots/{lot}/decide", {
          params: { header, path: { lot: first } },
          body: { what: "merge", with: others },
        }),
      ),
    );
  },
});
const who = (id?: string) => studio.value?.people.find((p) => p.id === id)?.name ?? "";
const rule = (i: Schemas["Ingredient"]) =>
  i.drops
    ? `${t("{n} drop | {n} drops", i.drops)}`
    : i.rule === "parts"
      ? `${t("{n} part | {n} parts", i.share)}`
      : t("{share} {massUnit} in 100 {massUnit}", { share: plain(i.share / 1000), massUnit: massUnit() });

/** How the mass of one piece follows from its shape. */
function shape(g: Schemas["Geometry"]): string {
  const density = t("× {densityMilligramsPerMillilitre} g/cm³", {
    densityMilligramsPerMillilitre: plain((mixing.value?.densityMilligramsPerMillilitre ?? 0) / 1000),
  });
  const mm = (micrometres?: number) => plain((micrometres ?? 0) / 1000);
  if (g.shape === "cut")
    return t("{lengthMicrometres} × {widthMicrometres} × {thicknessMicrometres} mm × {factorPerMille} {density}", {
      lengthMicrometres: mm(g.lengthMicrometres),
      widthMicrometres: mm(g.widthMicrometres),
      thicknessMicrometres: mm(g.thicknessMicrometres),
      factorPerMille: plain((g.factorPerMille ?? 0) / 1000),
      density,
    });
  if (g.shape === "ball")
    return t("ball of {diameterMicrometres} mm {density}", { diameterMicrometres: mm(g.diameterMicrometres), density });
  if (g.shape === "rope")
    return t("rope {diameterMicrometres} × {lengthMicrometres} mm {density}", {
      diameterMicrometres: mm(g.diameterMicrometres),
      lengthMicrometres: mm(g.lengthMicrometres),
      density,
    });
  return t("as weighed");
}
/** What there is to be said of the mixes, each once. */
const notes = computed(() => [...new Set(mixing.value?.notes.map(noteWords))]);
/** What is on the board: what was weighed once it was, else what is to be. */
const onBoard = (m: Schemas["MixCard"]): number =>
  m.weighed ? m.weigh.reduce((sum, i) => sum + (i.weighedMilligrams ?? 0), 0) : m.toMixMilligrams;
</script>

<template>
  <div class="station">
    <StationHead title="Mixing" :says="mixing ? says : ''" />
    <ProblemNote :error="error" />
    <ProblemNote :error="join.error.value" />
    <p v-if="join.isSuccess.value" class="said" role="status" data-test="joined">
      It is one weighing once the proposal is accepted, under Orders.
    </p>
    <NoteList :notes="notes" />
    <DaySpan v-model="shownDays" />
    <p v-if="mixing && !mixing.mixes.length" class="sheet empty">
      {{ later.length ? $t("Nothing to weigh in these days.") : $t("Nothing to weigh: what is needed lies ready.") }}
    </p>
    <section v-for="d in days" :key="d.day">
      <h2>
        {{ d.day === today ? $t("Today") : d.day }}
        <span class="quiet"> {{ $t("{n} mixing | {n} mixings", d.mixes.length) }}, {{ mass(d.grams) }} </span>
      </h2>
      <div class="mixes">
        <article v-for="m in d.mixes" :key="m.lot" class="sheet mix" :data-test="`mix-${m.name}`">
          <div class="dab" :style="{ background: m.colour }" />
          <header>
            <h3>{{ m.name }}</h3>
            <span class="quiet" v-if="m.task">{{ times.clock(m.task.start) }}, {{ who(m.task.person) }}</span>
          </header>
          <button class="bare total" :data-test="`total-${m.name}`" @click="openedLot = m.lot">
            <span class="figure"
              >{{ massFigure(onBoard(m)) }}<span class="unit">&nbsp;{{ massUnit() }} on the board</span></span
            >
            <span class="quiet">{{ mass(m.usedMilligrams) }} end up in pieces</span>
          </button>
          <table class="ledger">
            <tbody>
              <tr v-for="i in m.weigh" :key="i.name">
                <td><Swatch v-if="i.colour" :colour="i.colour" :size="14" /> {{ i.name }}</td>
                <td class="quiet">{{ rule(i) }}</td>
                <td v-if="i.weighedMilligrams !== undefined" class="n" data-test="weighed">
                  <span v-if="i.weighedMilligrams !== i.weighMilligrams" class="quiet"
                    >{{ massFigure(i.weighMilligrams) }} planned,
                  </span>
                  <b>{{ massFigure(i.weighedMilligrams) }}</b><span class="unit">&nbsp;{{ massUnit() }}</span>
                </td>
                <td v-else class="n">
                  <b :class="{ little: i.tooLittle }">{{
                    i.tooLittle ? fineMassFigure(i.exactMilligrams) : massFigure(i.weighMilligrams)
                  }}</b>
                  <span class="unit">&nbsp;{{ massUnit() }}</span>
                </td>
              </tr>
            </tbody>
          </table>
          <p v-if="m.once" class="quiet" data-test="together">
            Weighed {{ m.once.length }} times that day, {{ mass(onceWeighed(m.once)) }} in all.
            <button
              class="bare add"
              :data-test="`join-${m.name}`"
              :disabled="join.isPending.value"
              @click="join.mutate(m.once)"
            >
              Weigh it once
            </button>
          </p>
          <p v-if="m.weigh.some((i) => i.tooLittle)" class="quiet" data-test="too-little">
            {{ tooLittleWords(m.leastMilligrams) }}
          </p>
          <p v-for="a in m.met" :key="a.order + a.material" class="word late" role="alert" data-test="met">
            {{
              $t("{order} must have no {allergen}, and this takes {material}: stop, and ask.", {
                order: a.order ?? "",
                allergen: a.allergen,
                material: a.material,
              })
            }}
          </p>
          <p class="foot">
            <span class="quiet">keeps {{ lasting(m.useByAfterMinutes) }} wrapped</span>
            <span v-if="m.weighed" class="word safe">weighed in</span>
            <v-btn v-else-if="m.task" variant="tonal" size="small" :data-test="`weigh-${m.name}`" @click="weighing = m"
              >Weigh in</v-btn
            >
          </p>
        </article>
      </div>
    </section>
    <LaterDays :days="later" :title="laterSays" />
    <section v-if="ladders.length" class="sheet ladders">
      <h2>Shades from one weighing</h2>
      <ShadeLadder v-for="l in ladders" :key="l.key" :deep="l.deep" :shades="l.shades" />
    </section>
    <WeighIn v-if="weighing" :mix="weighing" @close="weighing = undefined" />
    <section v-if="mixing?.onShelf.length">
      <h2>Lying ready</h2>
      <p class="ready">
        <span v-for="r in mixing.onShelf" :key="r.what"
          ><Swatch :colour="r.colour" /> {{ r.what }}, {{ mass(r.amount) }}</span
        >
      </p>
    </section>
    <MaterialList v-if="mixing" title="All mixings together take" :lines="mixing.materials" />
    <v-dialog
      :model-value="!!openedLot && !!opened"
      :aria-label="opened?.name"
      max-width="520"
      @update:model-value="openedLot = undefined"
    >
      <div v-if="opened" class="sheet opened" data-test="working">
        <h2><Swatch :colour="opened.colour" :size="26" /> {{ opened.name }}</h2>
        <table class="ledger">
          <thead>
            <tr>
              <th>goes into</th>
              <th class="n">pieces × mass</th>
              <th class="n">used</th>
              <th class="n">with loss</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(u, i) in opened.for" :key="i">
              <td>
                {{ u.name }}<br /><span v-if="u.shape" class="quiet">{{ shape(u.shape) }}</span>
              </td>
              <td class="n">
                {{ u.pieces ? `${u.pieces} × ${fineMassFigure(u.massMilligrams ?? 0)} ${massUnit()}` : "" }}
              </td>
              <td class="n">{{ mass(u.usedMilligrams) }}</td>
              <td class="n">{{ mass(u.drawnMilligrams) }}</td>
            </tr>
          </tbody>
        </table>
        <WorkingSheet :workings="opened.workings" />
      </div>
    </v-dialog>
  </div>
</template>

<style scoped>
section {
  margin-bottom: 26px;
}
section h2 .quiet {
  font: 400 0.9333rem var(--count);
  margin-left: 10px;
}
.mixes {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(330px, 1fr));
  gap: 14px;
  margin-top: 8px;
}
.mix {
  position: relative;
  padding: 16px 18px 10px 46px;
  overflow: hidden;
}
.dab {
  position: absolute;
  left: 0;
  top: 0;
  bottom: 0;
  width: 28px;
  border-right: 1px solid var(--vein);
}
header {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
}
.ladders {
  padding: 14px 20px;
  display: grid;
  gap: 14px;
}
.foot {
  display: flex;
  justify-content: space-between;
  align-items: center;
  margin: 8px 0 2px;
}
.total {
  display: grid;
  gap: 3px;
  padding: 6px 0 8px;
}
.ready {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 26px;
}
td b {
  font-size: 1.1333rem;
}
.little {
  color: var(--petal);
}
</style>
