<script setup lang="ts">
import { computed, ref, watch } from "vue";
import WorkGlyph from "../../drawings/WorkGlyph.vue";
import type { Option } from "../../parts/fields/column";
import type { columnsFor } from "./columns";
import FieldGrid from "../../parts/fields/FieldGrid.vue";
import { keyFor, type Row } from "../../parts/fields/fields";
import RowsTable from "../../parts/fields/RowsTable.vue";
import type { Recipe, Step } from "./writing";
import { t } from "../../words/said";

/** The steps of a recipe in their order; one is open to be written in. */
const props = defineProps<{
  recipe: Recipe;
  columns: ReturnType<typeof columnsFor>;
  open: string;
  gates: Option[];
  flaw: (place: string) => string | undefined;
}>();
const emit = defineEmits<{ edit: [change: (r: Recipe) => void]; "update:open": [key: string] }>();

const at = computed(() => props.recipe.steps.findIndex((s) => s.key === props.open));
const step = computed<Step | undefined>(() => props.recipe.steps[at.value]);
const place = computed(() => `steps[${at.value}] "${step.value?.name ?? ""}"`);
/** A step just added may not be there yet: of a variant the core is asked first. */
let awaited = "";
watch(
  step,
  (s) => {
    if (s) awaited = "";
    else if (props.open !== awaited && props.recipe.steps[0]) emit("update:open", props.recipe.steps[0].key);
  },
  { immediate: true },
);
const naming = ref("");
watch(
  () => step.value?.key,
  () => (naming.value = step.value?.name ?? ""),
  { immediate: true },
);

function add(wait: boolean) {
  const key = keyFor(
    wait ? "wait" : "work",
    props.recipe.steps.map((s) => s.key),
  );
  const next: Step = wait
    ? { key, name: t("Wait"), wait: { minutes: 30 } }
    : {
        key,
        name: t("Work"),
        work: {
          glyph: "shape",
          skill:
            props.columns.work[0]?.options && !(props.columns.work[0].options instanceof Function)
              ? (props.columns.work[0].options[0]?.value ?? "")
              : "",
          setupMilliminutes: 5000,
          pieceMilliminutes: 1000,
          mayPause: true,
        },
      };
  awaited = key;
  const after = at.value < 0 ? props.recipe.steps.length : at.value + 1;
  emit("edit", (r) => r.steps.splice(after, 0, next));
  emit("update:open", key);
}
function change(how: (s: Step) => void) {
  const key = props.open;
  emit("edit", (r) => {
    const s = r.steps.find((x) => x.key === key);
    if (s) how(s);
  });
}
function move(by: number) {
  const from = at.value;
  emit("edit", (r) => {
    const [s] = r.steps.splice(from, 1);
    r.steps.splice(from + by, 0, s!);
  });
}
function drop() {
  const from = at.value;
  emit("update:open", props.recipe.steps[from - 1]?.key ?? "");
  emit("edit", (r) => void r.steps.splice(from, 1));
}
const work = computed(() => (step.value?.work ?? {}) as Row);
const wait = computed(() => (step.value?.wait ?? {}) as Row);
const load = computed<Row>(() => {
  const l = step.value?.wait?.load;
  return l ? { machine: l.machines[0], setting: l.setting, perSlot: l.perSlot } : {};
});
function putLoad(row: Row) {
  change((s) => {
    if (!s.wait) return;
    if (!row.machine) delete s.wait.load;
    else
      s.wait.load = {
        machines: [row.machine as string],
        setting: (row.setting as string) ?? "",
        perSlot: (row.perSlot as number) ?? 1,
      };
  });
}
const flawOf = (part: string) => (key: string) => props.flaw(`${place.value}.${part}.${key}`);
const lineFlaw = (list: string) => (i: number, key: string) =>
  props.flaw(`${place.value}.${list}[${i}].${key}`) ??
  (key === "until" || key === "after" ? props.flaw(`${place.value}.${list}[${i}]`) : undefined);
/** What a step wants and loses, as it was written; nothing where nothing is said. */
const state = (row: Row) =>
  ({
    wants: row.wants || undefined,
    loses: row.loses || undefined,
    losesPerMille: row.losesPerMille || undefined,
  }) as Partial<Step>;
</script>

<template>
  <div class="steps">
    <ol data-test="steps">
      <li
        v-for="(s, i) in recipe.steps"
        :key="s.key"
        :class="{ open: s.key === open, flawed: flaw(`steps[${i}] &quot;${s.name}&quot;`) }"
      >
        <button class="bare" :data-test="`step-${s.name}`" @click="emit('update:open', s.key)">
          <WorkGlyph :glyph="s.work?.glyph ?? 'wait'" :size="17" /> {{ s.name || "…" }}
        </button>
      </li>
      <li class="more">
        <button class="bare" data-test="add-work" @click="add(false)">Add work</button>
        <button class="bare" data-test="add-wait" @click="add(true)">Add a wait</button>
      </li>
    </ol>
    <div v-if="step" class="one" data-test="step-editor">
      <div class="head">
        <input
          v-model="naming"
          name="step-name"
          aria-label="Name of the step"
          @change="change((s) => (s.name = naming))"
        />
        <button v-if="at > 0" class="bare" title="Earlier" @click="move(-1)">↑ earlier</button>
        <button v-if="at < recipe.steps.length - 1" class="bare" title="Later" @click="move(1)">↓ later</button>
        <button class="bare" title="Take this step away" @click="drop">✕ take away</button>
      </div>
      <p v-if="flaw(place)" class="flaw">{{ flaw(place) }}</p>
      <template v-if="step.work">
        <FieldGrid
          name="work"
          :row="work"
          :columns="columns.work"
          :flaws="flawOf('work')"
          @row="(row) => change((s) => (s.work = row as Step['work']))"
        />
        <FieldGrid
          name="wants"
          :row="{ wants: step.wants, loses: step.loses, losesPerMille: step.losesPerMille } as Row"
          :columns="columns.wants(step.work.glyph, step.key)"
          :flaws="(key) => flaw(`${place}.${key}`)"
          @row="(row) => change((s) => Object.assign(s, state(row)))"
        />
        <RowsTable
          name="tools"
          title="Scarce tools"
          :rows="(step.work.tools ?? []) as unknown as Row[]"
          :columns="columns.tools"
          more="Add a tool"
          :fresh="() => ({ tool: '' })"
          @rows="(rows) => change((s) => (s.work!.tools = rows as never))"
        />
      </template>
      <template v-else-if="step.wait">
        <FieldGrid
          name="wait"
          :row="wait"
          :columns="columns.wait"
          :flaws="flawOf('wait')"
          @row="(row) => change((s) => (s.wait = row as Step['wait']))"
        />
        <FieldGrid
          name="load"
          :row="load"
          :columns="columns.load"
          :flaws="(key) => flaw(`${place}.wait.load.${key}`)"
          @row="putLoad"
        />
      </template>
      <RowsTable
        name="holds"
        title="Lies in"
        :rows="(step.holds ?? []) as unknown as Row[]"
        :columns="columns.holds"
        more="Add a place"
        :fresh="() => ({ place: '', perSlot: 1, until: open })"
        :flaws="lineFlaw('holds')"
        @rows="(rows) => change((s) => (s.holds = rows as never))"
      />
      <RowsTable
        name="windows"
        title="Only when"
        :rows="(step.windows ?? []) as unknown as Row[]"
        :columns="columns.windows"
        more="Add a window"
        :fresh="() => ({ atLeastMinutes: 10 })"
        :flaws="
          (i, key) =>
            flaw(`${place}.windows[${i}].${key}`) ?? (key === 'after' ? flaw(`${place}.windows[${i}]`) : undefined)
        "
        @rows="(rows) => change((s) => (s.windows = rows as never))"
      />
      <RowsTable
        v-if="gates.length"
        name="gates"
        title="Waits from outside for"
        :rows="(step.gates ?? []).map((gate) => ({ gate }))"
        :columns="[{ key: 'gate', label: $t('a delivery or approval'), kind: 'choice', options: gates, width: 220 }]"
        more="Add what it waits for"
        :fresh="() => ({ gate: '' })"
        @rows="(rows) => change((s) => (s.gates = rows.map((r) => r.gate as string)))"
      />
      <FieldGrid
        name="card"
        :row="step as unknown as Row"
        :columns="[
          { key: 'look', label: $t('what to look for'), kind: 'text', width: 330 },
          { key: 'cautions', label: $t('cautions, one a line'), kind: 'list', width: 330 },
          { key: 'mistakes', label: $t('what goes wrong: why, one a line'), kind: 'mistakes', width: 330 },
        ]"
        @row="
          (row) => change((s) => Object.assign(s, { look: row.look, cautions: row.cautions, mistakes: row.mistakes }))
        "
      />
      <FieldGrid
        v-if="step.work"
        name="mend"
        :row="(step.mend ?? {}) as unknown as Row"
        :columns="
          columns.mend.map((c) => ({
            ...c,
            label: $t('mending: {label}', { label: c.label }),
            blank: $t('not mended'),
          }))
        "
        @row="
          (row) =>
            change((s) => {
              if (row.skill && row.pieceMilliminutes)
                s.mend = { glyph: s.work!.glyph, setupMilliminutes: 0, mayPause: true, ...row } as never;
              else if (row.skill || row.pieceMilliminutes)
                s.mend = {
                  glyph: s.work!.glyph,
                  skill: s.work!.skill,
                  setupMilliminutes: 0,
                  pieceMilliminutes: 1000,
                  mayPause: true,
                  ...row,
                } as never;
              else delete s.mend;
            })
        "
      />
    </div>
  </div>
</template>

<style scoped>
.steps {
  display: grid;
  grid-template-columns: 200px minmax(0, 1fr);
  gap: 22px;
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
  border-left: 2px solid var(--leaf);
}
li button {
  display: flex;
  gap: 8px;
  align-items: center;
  padding: 4px 6px 4px 12px;
  width: 100%;
}
li.open {
  background: var(--leaf-wash);
  font-weight: 650;
}
li.flawed {
  color: var(--late);
}
.more {
  color: var(--leaf);
  font-weight: 650;
}
.head {
  display: flex;
  gap: 14px;
  align-items: baseline;
  margin-bottom: 6px;
  color: var(--soft);
}
.head input {
  flex: 1;
  font: 560 1.2rem var(--name);
  color: var(--ink);
  border: 0;
  border-bottom: 1px solid var(--vein);
  background: none;
}
.one {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
  min-width: 0;
}
.flaw {
  color: var(--late);
  font-weight: 600;
  margin: 0;
}
@media (max-width: 900px) {
  .steps {
    grid-template-columns: 1fr;
  }
}
</style>
