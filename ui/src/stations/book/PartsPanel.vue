<script setup lang="ts">
import { computed, ref, toRaw } from "vue";
import { answered, client, type Schemas } from "../../api/client";
import { length } from "../../format";
import ProblemNote from "../../parts/ProblemNote.vue";
import type { columnsFor, Words } from "./columns";
import FieldGrid from "../../parts/fields/FieldGrid.vue";
import { placeWords, valueWords, type Row } from "../../parts/fields/fields";
import RowsTable from "../../parts/fields/RowsTable.vue";
import { newId, type Recipe, type Writing } from "./writing";
import { t, word } from "../../words/said";

/** What goes in: parts in their rows, paste by size, wires, materials; of a mix its blend. */
const props = defineProps<{
  w: Writing;
  columns: ReturnType<typeof columnsFor>;
  flaw: (place: string) => string | undefined;
  words: Words;
  book: Schemas["Page"][];
}>();
const emit = defineEmits<{ choose: [recipe: string, step: string] }>();
const r = computed(() => props.w.edited.value!);
const at = ref(0);
const first = (work = true) => r.value.steps.find((s) => !work || s.work)?.key ?? "";
const flaws = (list: string) => (i: number, key: string) =>
  props.flaw(`${list}[${i}].${key}`) ?? (key.startsWith("shape.") ? props.flaw(`${list}[${i}].shape`) : undefined);
const set = (list: keyof Recipe, rows: Row[]) =>
  props.w.edit((x) => Object.assign(x, { [list]: rows.length ? rows : undefined }));

/** A paste at the last step that has none of the slot yet: a step takes one of a slot. */
function freshPaste(): Row {
  const work = r.value.steps.filter((s) => s.work).map((s) => s.key);
  const taken = (step: string, slot: string) => (r.value.pastes ?? []).some((p) => p.step === step && p.slot === slot);
  const free = work.findLast((step) => !taken(step, "petal"));
  const step = free ?? work.at(-1) ?? "";
  let slot = "petal";
  for (let n = 2; taken(step, slot); n++) slot = t("petal {n}", { n });
  const shape = {
    shape: "cut",
    lengthMicrometres: 40000,
    widthMicrometres: 30000,
    thicknessMicrometres: 700,
    factorPerMille: 785,
  };
  return { step, slot, shape, run: 12 };
}
/** A new count follows its rows, and rows that no longer add up are let go. */
function setParts(rows: Row[]) {
  const before = (r.value.parts ?? []) as unknown as Row[];
  rows.forEach((row, i) => {
    const sum = ((row.rows as number[] | undefined) ?? []).reduce((a, b) => a + b, 0);
    const was = before[i];
    if (!sum || sum === row.count) return;
    if (JSON.stringify(was?.rows) !== JSON.stringify(row.rows)) row.count = sum;
    else delete row.rows;
  });
  set("parts", rows);
}
/** Fields of a mix that were emptied are gone. */
function setMix(row: Row) {
  props.w.edit((x) => {
    const own = x as unknown as Row;
    for (const { key } of props.columns.mix) {
      if (row[key] === undefined) delete own[key];
      else own[key] = row[key];
    }
  });
}
const more = computed(() => r.value.parts?.[at.value] as unknown as Row | undefined);
function setMore(row: Row) {
  const i = at.value;
  props.w.edit((x) => void (x.parts![i] = row as never));
}
function row(i: number) {
  props.w.edit((x) => {
    const p = x.parts![i]!;
    const rows = p.rows?.length ? p.rows : [p.count];
    p.rows = [...rows, rows.at(-1)! + 1];
    p.count = p.rows.reduce((a, b) => a + b, 0);
    p.set = p.set ?? "over-gaps";
  });
}
/** Another size: the part written again a quarter larger, one row of it after the rows of this one. */
function size(i: number) {
  const of = r.value.parts![i]!;
  const from = props.w.recipes.value.find((x) => x.id === of.recipe);
  if (!from) return;
  const twin = JSON.parse(JSON.stringify(from)) as Recipe;
  const id = newId();
  const larger = (v: number | undefined) => (v ? Math.round((v * 1.25) / 500) * 500 : v);
  Object.assign(twin, { id, recipe: id, revision: 0, name: freeName(from.name) });
  for (const p of twin.pastes ?? []) {
    const g = p.shape;
    if (g.shape === "weighed") continue;
    Object.assign(g, {
      lengthMicrometres: larger(g.lengthMicrometres),
      widthMicrometres: larger(g.widthMicrometres),
      diameterMicrometres: larger(g.diameterMicrometres),
    });
    delete g.driedMicrometres;
  }
  props.w.add(twin);
  props.w.edit(
    (x) => void x.parts!.splice(i + 1, 0, { ...x.parts![i]!, recipe: id, rows: undefined, least: undefined }),
  );
  at.value = i + 1;
}
function freeName(name: string): string {
  const plain = name.replace(/, larger( \d+)?$/, "");
  for (let n = 1; ; n++) {
    const next = t("{plain}, larger{n}", { plain, n: n > 1 ? ` ${n}` : "" });
    if (!props.w.recipes.value.some((x) => x.name === next) && !props.book.some((p) => p.name === next)) return next;
  }
}
/** A part of its own, to be written next. */
function part() {
  const id = newId();
  const name = t("{name} part {parts}", {
    name: props.w.root.value?.name ?? t("Flower"),
    parts: (r.value.parts?.length ?? 0) + 1,
  });
  props.w.add({
    id,
    recipe: id,
    revision: 0,
    name,
    kind: "part",
    form: "petal",
    spares: { rule: "breakage", breakagePerMille: 50 },
    steps: [
      {
        key: "shape",
        name: t("Shape"),
        work: { glyph: "shape", skill: "shaping", setupMilliminutes: 5000, pieceMilliminutes: 800, mayPause: true },
      },
    ],
    pastes: [
      {
        step: "shape",
        slot: "petal",
        shape: {
          shape: "cut",
          lengthMicrometres: 40000,
          widthMicrometres: 30000,
          thicknessMicrometres: 700,
          factorPerMille: 785,
        },
        run: 12,
      },
    ],
  });
  props.w.edit((x) => (x.parts = [...(x.parts ?? []), { step: first(), recipe: id, count: 5 }]));
}
const mixes = computed(() => {
  const all = new Map(props.book.filter((p) => p.kind === "mix").map((p) => [p.recipe, p.name]));
  for (const x of props.w.recipes.value) if (x.kind === "mix") all.set(x.id, x.name);
  return [...all].map(([value, title]) => ({ title, value }));
});
const slots = computed(() => [
  ...new Set(
    [
      ...(r.value.pastes ?? []).map((p) => p.slot),
      ...r.value.steps.flatMap((s) => [s.work?.setupSlot, s.wait?.slot]),
      ...Object.keys(r.value.defaults ?? {}),
    ].filter((s): s is string => !!s),
  ),
]);
const defaults = computed(() => slots.value.map((slot) => ({ slot, mix: r.value.defaults?.[slot] })) as Row[]);
function setDefaults(rows: Row[]) {
  props.w.editSelf((x) => {
    x.defaults = Object.fromEntries(rows.filter((d) => d.mix).map((d) => [d.slot as string, d.mix as string]));
    if (!Object.keys(x.defaults).length) delete x.defaults;
  });
}
/** Which slot of this recipe colours a slot of the part: a deeper shade for the inner row. */
const partSlots = computed(() => {
  const of = props.w.recipes.value.find((x) => x.id === r.value.parts?.[at.value]?.recipe);
  const own = [...new Set([...(of?.pastes ?? []).map((p) => p.slot), ...Object.keys(of?.defaults ?? {})])];
  return own.map((slot) => ({ slot, from: r.value.parts?.[at.value]?.slots?.[slot] })) as Row[];
});
function setSlots(rows: Row[]) {
  const i = at.value;
  props.w.edit((x) => {
    const given = rows.filter((s) => s.from);
    if (given.length) x.parts![i]!.slots = Object.fromEntries(given.map((s) => [s.slot as string, s.from as string]));
    else delete x.parts![i]!.slots;
  });
}

/** What to cut for sizes wanted once dry. */
const cuts = computed(() => (props.w.answer.value?.cuts ?? []).filter((c) => c.recipe === props.w.chosen.value));
function cutWith(c: Schemas["Cut"]) {
  props.w.edit((x) => {
    const g = x.pastes![c.paste]!.shape;
    const scale = c.toolMicrometres! / Math.max(1, g.lengthMicrometres ?? 1);
    g.lengthMicrometres = c.toolMicrometres;
    g.widthMicrometres = Math.round((g.widthMicrometres ?? 0) * scale);
  });
}
const reading = ref<unknown>();
const read = ref<Schemas["PartsRead"]>();
async function csv(event: Event) {
  const input = event.target as HTMLInputElement;
  const file = input.files?.[0];
  if (!file) return;
  reading.value = undefined;
  try {
    const root = props.w.root.value!;
    const recipes = [root, ...props.w.recipes.value.filter((x) => x.id !== root.id)];
    read.value = await answered(client.POST("/api/book/parts", { body: { recipes, file: await file.text() } }));
  } catch (error) {
    reading.value = error;
  }
  input.value = "";
}
const page = computed(() => props.book.find((p) => p.recipe === props.w.root.value?.id)?.page);
/** A further size begins as the last one, or as the part itself. */
function freshSize(): Row {
  const last = r.value.sizes?.at(-1);
  if (last) return { ...structuredClone(toRaw(last)), name: "" } as unknown as Row;
  return { name: "", count: 1, shape: structuredClone(toRaw(r.value.pastes![0]!.shape)) } as unknown as Row;
}
</script>

<template>
  <div v-if="r.kind === 'mix'">
    <FieldGrid name="mix" :row="r as unknown as Row" :columns="columns.mix" :flaws="flaw" @row="setMix" />
    <RowsTable
      name="blend"
      title="Blend"
      :rows="(r.blend ?? []) as unknown as Row[]"
      :columns="columns.blend"
      more="Add an ingredient"
      :fresh="() => ({ parts: 1 })"
      :flaws="flaws('blend')"
      @rows="(rows) => set('blend', rows)"
    />
    <RowsTable
      name="additives"
      title="Into each 100 g"
      :rows="(r.additives ?? []) as unknown as Row[]"
      :columns="columns.additives"
      more="Add a colour or powder"
      :fresh="() => ({ material: '', milligramsPer100g: 500 })"
      :flaws="flaws('additives')"
      @rows="(rows) => set('additives', rows)"
    />
  </div>
  <div v-else>
    <RowsTable
      name="parts"
      title="Parts, from the first row to the last"
      :rows="(r.parts ?? []) as unknown as Row[]"
      :columns="columns.parts"
      :selected="at"
      more="Add something of the book"
      :fresh="() => ({ step: first(), recipe: '', count: 1 })"
      :flaws="flaws('parts')"
      @choose="(i) => (at = i)"
      @rows="setParts"
    >
      <template #row="{ index, row: line }">
        <button class="bare" title="Another row of these" :data-test="`row-${index}`" @click="row(index)">+ row</button>
        <button class="bare" title="The next size" :data-test="`size-${index}`" @click="size(index)">+ size</button>
        <button class="bare" title="Write in this part" @click="emit('choose', line.recipe as string, '')">open</button>
      </template>
    </RowsTable>
    <div class="ways">
      <button class="bare add" data-test="add-part" @click="part">Add a part of its own</button>
      <a v-if="page" class="add" :href="`/api/book/pages/${page}/parts.csv`" download>Parts table as CSV</a>
      <label class="add"
        >Read a parts table<input type="file" accept=".csv,text/csv" name="parts-csv" hidden @change="csv"
      /></label>
    </div>
    <ProblemNote :error="reading" />
    <div v-if="read" class="read sheet" data-test="parts-read">
      <b>The table would change:</b>
      <ul>
        <li v-for="c in read.changes" :key="c.name">
          <b>{{ c.name }}</b> {{ word(c.state) }}
          <span v-for="e in c.changes.slice(0, 8)" :key="e.place" class="quiet"
            >{{ placeWords(e.place) }}: {{ valueWords(e.place, e.was) }} → {{ valueWords(e.place, e.is) }};
          </span>
        </li>
      </ul>
      <v-btn size="small" color="primary" data-test="take-parts" @click="(w.take(read!.recipes), (read = undefined))"
        >Take it</v-btn
      >
      <v-btn size="small" variant="text" @click="read = undefined">Leave it</v-btn>
    </div>
    <details v-if="more">
      <summary>More of the line chosen: shades, ranges, freshness, distances</summary>
      <FieldGrid
        name="more"
        :row="more"
        :columns="columns.partsMore"
        :flaws="
          (key) => flaw(`parts[${at}].${key}`) ?? (key.startsWith('window.') ? flaw(`parts[${at}].window`) : undefined)
        "
        @row="setMore"
      />
      <RowsTable
        name="shades"
        title="Shades of this line"
        fixed
        :rows="partSlots"
        :columns="[
          { key: 'slot', label: $t('its slot'), kind: 'text', width: 120 },
          { key: 'from', label: $t('takes the mix of slot'), kind: 'text', width: 150, blank: $t('the same') },
        ]"
        @rows="setSlots"
      />
    </details>
    <RowsTable
      name="pastes"
      title="Paste, dust, glue: slots and sizes"
      :rows="(r.pastes ?? []) as unknown as Row[]"
      :columns="columns.pastes"
      more="Add a paste"
      :fresh="freshPaste"
      :flaws="flaws('pastes')"
      @rows="(rows) => set('pastes', rows)"
    />
    <p v-for="c in cuts" :key="c.paste" class="quiet" data-test="cut">
      {{ length(c.driedMicrometres) }} once dry: cut {{ length(c.lengthMicrometres)
      }}<template v-if="c.tool">
        with {{ c.tool }} <button class="bare add" @click="cutWith(c)">take it</button></template
      ><template v-else>; no cutter of the studio is large enough</template>.
    </p>
    <RowsTable
      v-if="r.kind === 'part' && (r.pastes?.length || r.sizes?.length)"
      name="sizes"
      title="Sizes of this part"
      :rows="(r.sizes ?? []) as unknown as Row[]"
      :columns="columns.sizes"
      more="Add a size"
      :fresh="freshSize"
      :flaws="flaws('sizes')"
      @rows="(rows) => set('sizes', rows)"
    />
    <RowsTable
      name="wires"
      title="Wires"
      :rows="(r.wires ?? []) as unknown as Row[]"
      :columns="columns.wires"
      more="Add a wire"
      :fresh="
        () => ({
          step: first(),
          material: '',
          number: 1,
          depthMicrometres: 12000,
          stemMicrometres: 80000,
          allowanceMicrometres: 0,
        })
      "
      :flaws="flaws('wires')"
      @rows="(rows) => set('wires', rows)"
    />
    <RowsTable
      name="materials"
      title="Bought things"
      :rows="(r.materials ?? []) as unknown as Row[]"
      :columns="columns.materials"
      more="Add a material"
      :fresh="() => ({ step: first(), material: '', amount: 1 })"
      :flaws="flaws('materials')"
      @rows="(rows) => set('materials', rows)"
    />
    <RowsTable
      v-if="defaults.length"
      name="defaults"
      title="Mix of a slot where the colourway says nothing"
      fixed
      :rows="defaults"
      :columns="[
        { key: 'slot', label: $t('slot'), kind: 'text', width: 120 },
        { key: 'mix', label: $t('mix'), kind: 'choice', options: mixes, blank: $t('by the colourway'), width: 200 },
      ]"
      @rows="setDefaults"
    />
  </div>
</template>

<style scoped>
.ways {
  display: flex;
  gap: 20px;
  margin: -6px 0 10px 4px;
}
details {
  margin-bottom: 12px;
}
summary {
  color: var(--soft);
  cursor: pointer;
  margin-bottom: 6px;
}
.read {
  padding: 10px 16px;
  margin-bottom: 12px;
}
</style>
