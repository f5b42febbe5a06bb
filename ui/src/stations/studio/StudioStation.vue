<script setup lang="ts">
import { v7 } from "uuid";
import { computed, ref } from "vue";
import { useRoute, useRouter } from "vue-router";
import type { Schemas } from "../../api/client";
import { useStudio, useUsual, useWorkshop } from "../../api/queries";
import WorkGlyph from "../../drawings/WorkGlyph.vue";
import { stocked, useTimes } from "../../format";
import type { Row } from "../../parts/fields/fields";
import ProblemNote from "../../parts/ProblemNote.vue";
import StationHead from "../../parts/StationHead.vue";
import AccessPanel from "./AccessPanel.vue";
import BackupNote from "./BackupNote.vue";
import ClosedDay from "./ClosedDay.vue";
import FrameSheet from "./FrameSheet.vue";
import { fresh, type Part, parts } from "./sheets";
import PasteTable from "./PasteTable.vue";
import ThingSheet from "./ThingSheet.vue";
import { useSheets } from "./useSheets";
import WeekStrip from "./WeekStrip.vue";
import { t } from "../../words/said";

/** The workshop: people at their benches, where things dry, the cupboard, the door. One thing opens beside it. */
const { data: shop, error } = useWorkshop();
const { data: usual } = useUsual();
const { data: studio } = useStudio();
const times = useTimes();
const route = useRoute();
const router = useRouter();

type Kind = keyof typeof titles;
const titles = {
  people: t("Somebody who works here"),
  places: t("Another kind of place"),
  surroundings: t("A part of the studio with air of its own"),
  machines: t("A machine that dries"),
  tools: t("A tool"),
  materials: t("Something that is bought"),
  suppliers: t("A supplier"),
  dryingClasses: t("A kind of paste that dries in its own way"),
  dryingMethods: t("A way of drying"),
  setupFamilies: t("Work in which a change of colour costs time"),
} as const;
/** Of what tables can be pasted. */
const tables = [
  { kind: "people", title: t("people") },
  { kind: "places", title: t("places where things dry") },
  { kind: "materials", title: t("materials") },
  { kind: "tools", title: t("tools") },
  { kind: "suppliers", title: t("suppliers") },
];
const kind = computed(() => route.query.of as Kind | "studio" | "table" | undefined);
const part = computed(() => (route.query.part as Part | undefined) ?? "plans");
const things = (of: Kind) => (shop.value?.[of] ?? []) as unknown as Row[];
/** What is begun and not there yet. */
const begun = ref<Row>();
const isNew = computed(() => route.query.id === "new");
const thing = computed(() =>
  !kind.value || kind.value === "studio" || kind.value === "table"
    ? undefined
    : isNew.value
      ? begun.value
      : things(kind.value).find((t) => t.id === route.query.id),
);
function open(of: Kind, id: string) {
  void router.replace({ query: { of, id } });
}
/** Something new: as it usually is, or from the beginning. */
function begin(of: Kind, usually?: object) {
  begun.value = { id: v7(), ...(usually ?? fresh[of]!()) };
  open(of, "new");
}
const close = () => void router.replace({ query: {} });

const sheetOf = useSheets();

const today = computed(() => times.value.date(studio.value?.now ?? 0));
const awayToday = (p: Schemas["Person"]) => p.away?.includes(today.value);
const inUse = <T extends { outOfUse?: boolean }>(all: T[] | undefined) => (all ?? []).filter((x) => !x.outOfUse);
const cupboard = computed(() => {
  const all = inUse(shop.value?.materials);
  const of = (title: string, is: (m: Schemas["Material"]) => boolean) => ({ title, all: all.filter(is) });
  return [
    of(t("Wires"), (m) => !!m.wire),
    of(t("By weight"), (m) => !m.wire && m.unit === "mg"),
    of(t("By piece and length"), (m) => !m.wire && m.unit !== "mg"),
  ].filter((g) => g.all.length);
});
const outOfUse = computed(() =>
  (Object.keys(titles) as Kind[]).flatMap((of) =>
    things(of)
      .filter((t) => t.outOfUse)
      .map((t) => ({ of, id: t.id as string, name: t.name as string })),
  ),
);
const drawn = (slots: number) => Math.min(12, slots);
</script>

<template>
  <div class="station">
    <StationHead title="Studio" says="Who, when, with what?" />
    <ProblemNote :error="error" />
    <div v-if="shop" class="two" :class="{ 'beside-it': kind }">
      <div class="floor" data-test="floor">
        <section class="benches">
          <h2>At the benches</h2>
          <div class="row">
            <button
              v-for="p in inUse(shop.people)"
              :key="p.id"
              class="card person"
              :class="{ here: route.query.id === p.id }"
              :data-test="`person-${p.name}`"
              @click="open('people', p.id)"
            >
              <b>{{ p.name }}</b>
              <WeekStrip :person="p" />
              <small>{{ p.skills.map((s) => s.skill).join(", ") || $t("no skills yet") }}</small>
              <small v-if="awayToday(p)" class="word late">away today</small>
            </button>
            <button class="card more" data-test="new-people" @click="begin('people')">Somebody else…</button>
          </div>
          <ClosedDay />
        </section>
        <section>
          <h2>Where things dry</h2>
          <div class="row">
            <button
              v-for="p in inUse(shop.places)"
              :key="p.id"
              class="card place"
              :class="{ here: route.query.id === p.id }"
              :data-test="`place-${p.name}`"
              @click="open('places', p.id)"
            >
              <b>{{ p.name }}</b>
              <span class="slots" aria-hidden="true"><i v-for="n in drawn(p.slots)" :key="n" /></span>
              <small>{{ $t("{n} slot | {n} slots", p.slots) }}</small>
            </button>
            <button
              v-for="m in inUse(shop.machines)"
              :key="m.id"
              class="card place machine"
              :class="{ here: route.query.id === m.id }"
              @click="open('machines', m.id)"
            >
              <b>{{ m.name }}</b>
              <span class="slots warm" aria-hidden="true"><i v-for="n in drawn(m.slots)" :key="n" /></span>
              <small>one load of {{ m.slots }}</small>
            </button>
            <button class="card more" data-test="new-places" @click="begin('places')">Another place…</button>
            <button class="card more" data-test="new-machines" @click="begin('machines')">A machine…</button>
            <RouterLink class="card more" to="/beginning/places">From the usual list…</RouterLink>
          </div>
        </section>
        <section>
          <h2>The cupboard</h2>
          <div v-for="g in cupboard" :key="g.title" class="shelf">
            <h3>{{ g.title }}</h3>
            <button
              v-for="m in g.all"
              :key="m.id"
              class="chip"
              :class="{ here: route.query.id === m.id }"
              @click="open('materials', m.id)"
            >
              {{ m.name }}
              <small :class="{ none: !m.onHand }">{{ m.onHand ? stocked(m.onHand, m.unit) : "none" }}</small>
            </button>
          </div>
          <button class="chip more" data-test="new-materials" @click="begin('materials')">
            Something else bought…
          </button>
          <RouterLink class="chip more" to="/beginning/materials">From the usual list…</RouterLink>
        </section>
        <section>
          <h2>Tools</h2>
          <button
            v-for="t in inUse(shop.tools)"
            :key="t.id"
            class="chip"
            :class="{ here: route.query.id === t.id }"
            @click="open('tools', t.id)"
          >
            {{ t.name }} <small>{{ t.number }}</small>
          </button>
          <button class="chip more" data-test="new-tools" @click="begin('tools')">A tool…</button>
          <button v-for="t in usual?.tools" :key="t.id" class="chip more" @click="begin('tools', t)">
            + {{ t.name }}
          </button>
        </section>
        <section>
          <h2>At the door</h2>
          <button
            v-for="s in inUse(shop.suppliers)"
            :key="s.id"
            class="chip"
            :class="{ here: route.query.id === s.id }"
            @click="open('suppliers', s.id)"
          >
            {{ s.name }} <small>{{ $t("{n} day | {n} days", s.days) }}</small>
          </button>
          <button class="chip more" data-test="new-suppliers" @click="begin('suppliers')">A supplier…</button>
        </section>
        <section>
          <h2>How things dry, and colours change</h2>
          <template
            v-for="of in ['dryingClasses', 'dryingMethods', 'surroundings', 'setupFamilies'] as const"
            :key="of"
          >
            <button
              v-for="t in things(of)"
              :key="t.id as string"
              class="chip"
              :class="{ here: route.query.id === t.id }"
              @click="open(of, t.id as string)"
            >
              <WorkGlyph :glyph="of === 'setupFamilies' ? 'dust' : 'wait'" :size="16" /> {{ t.name }}
            </button>
            <button class="chip more" :data-test="`new-${of}`" @click="begin(of)">{{ titles[of] }}…</button>
          </template>
        </section>
        <section>
          <h2>The studio itself</h2>
          <button
            v-for="(title, which) in parts"
            :key="which"
            class="chip"
            :class="{ here: kind === 'studio' && part === which }"
            :data-test="`open-${which}`"
            @click="router.replace({ query: { of: 'studio', part: which } })"
          >
            {{ title }}
          </button>
          <RouterLink class="chip" to="/book?colourways">Colourways and mixes</RouterLink>
          <button class="chip" data-test="open-table" @click="router.replace({ query: { of: 'table' } })">
            Many things at once, from a spreadsheet
          </button>
          <a class="chip" href="/api/workshop/document" download="studio.json" data-test="take-out">
            The whole studio as a file
          </a>
        </section>
        <AccessPanel />
        <BackupNote />
        <details v-if="outOfUse.length">
          <summary>{{ outOfUse.length }} out of use</summary>
          <button v-for="o in outOfUse" :key="o.id" class="chip" @click="open(o.of, o.id)">{{ o.name }}</button>
        </details>
      </div>
      <aside v-if="kind" class="beside">
        <PasteTable
          v-if="kind === 'table'"
          :kinds="tables"
          :sheets="sheetOf"
          :things="(of) => things(of as Kind)"
          :usual="(of) => ((usual as Record<string, unknown> | undefined)?.[of] ?? []) as Row[]"
          @close="close"
        />
        <FrameSheet v-else-if="kind === 'studio'" :shop="shop" :sheet="sheetOf.settings!" :part="part" @close="close" />
        <ThingSheet
          v-else-if="thing"
          :key="thing.id as string"
          :kind="kind"
          :thing="thing"
          :is-new="isNew"
          :sheet="sheetOf[kind]!"
          :title="titles[kind]"
          @close="close"
          @saved="open(kind, $event)"
        />
        <p v-else class="sheet quiet">This is not there any more.</p>
      </aside>
    </div>
  </div>
</template>

<style scoped>
.two.beside-it {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(380px, 42%);
  gap: 20px;
  align-items: start;
}
.beside {
  position: sticky;
  top: 12px;
  max-height: calc(100vh - 170px);
  overflow-y: auto;
}
section {
  margin-bottom: 18px;
}
h2 {
  margin-bottom: 6px;
}
h3 {
  font: 500 0.9rem var(--count);
  color: var(--soft);
  min-width: 9.5rem;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
.card,
.chip {
  font: 500 1rem var(--count);
  color: var(--ink);
  background: var(--sheet);
  border: 1.5px solid var(--vein);
  cursor: pointer;
  text-align: left;
}
.card {
  display: grid;
  gap: 3px;
  padding: 10px 14px;
  border-radius: 3px 16px;
  min-width: 132px;
  align-content: start;
}
.person b {
  font: 560 1.25rem var(--name);
}
.chip {
  display: inline-flex;
  gap: 6px;
  align-items: center;
  min-height: 34px;
  padding: 2px 10px;
  margin: 0 6px 6px 0;
  border-radius: 3px 12px;
  text-decoration: none;
}
.here {
  border-color: var(--leaf);
  background: var(--leaf-wash);
}
.card.more {
  text-decoration: none;
}
.more {
  border-style: dashed;
  color: var(--leaf);
  font-weight: 600;
}
small {
  color: var(--soft);
  max-width: 15rem;
}
small.none {
  color: var(--late);
}
.slots {
  display: flex;
  flex-wrap: wrap;
  gap: 3px;
  max-width: 138px;
}
.slots i {
  width: 14px;
  height: 8px;
  border: 1.5px solid var(--wire);
  border-top: 0;
  border-radius: 0 0 9px 9px;
}
.warm i {
  border-color: var(--dust);
}
.shelf {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
}
@media (max-width: 900px) {
  .two.beside-it {
    grid-template-columns: 1fr;
  }
  .beside {
    position: static;
    max-height: none;
    order: -1;
  }
}
</style>
