<script setup lang="ts">
import { computed, ref } from "vue";
import Swatch from "../../drawings/Swatch.vue";
import type { Writing } from "./writing";
import { t } from "../../words/said";

/** Which recipe is written in, and as what: itself, a variant, a school of a technique. */
const props = defineProps<{ w: Writing }>();
const naming = ref<"variant" | "technique" | "school">();
const name = ref("");
const asking = ref("");
const own = ref("");

const others = computed(() => {
  const root = props.w.root.value;
  if (!root) return [];
  const inputs = new Set((root.parts ?? []).map((p) => p.recipe));
  const pieces = props.w.recipes.value.filter((r) => r.id !== root.id && r.kind !== "mix");
  const near = [...inputs].map((id) => pieces.find((r) => r.id === id)).filter((r) => r !== undefined);
  const far = pieces.filter((r) => !inputs.has(r.id));
  const changedMixes = props.w.changed.value.filter((r) => r.kind === "mix" && r.id !== root.id);
  return [root, ...near, ...far, ...changedMixes];
});
const chosenMix = computed(() =>
  props.w.recipes.value.find((r) => r.id === props.w.chosen.value && !others.value.includes(r)),
);
const questions = [
  "hook",
  t("wire depth"),
  "veining",
  t("runs or phases"),
  "direction",
  "glue",
  "colour",
  "drying",
  t("stay soft or dry fast"),
  "spares",
  t("spray tip"),
];
const techniques = computed(() => props.w.base.value?.techniques ?? []);

function go(id: string) {
  props.w.turnTo(id);
}
function add() {
  const word = name.value.trim();
  if (!word) return;
  const kind = naming.value;
  if (kind === "variant") {
    props.w.editSelf((r) => (r.variants = [...(r.variants ?? []), { name: word }]));
    props.w.see({ variant: word });
  } else if (kind === "technique") {
    props.w.editSelf(
      (r) =>
        (r.techniques = [
          ...(r.techniques ?? []),
          { question: word, as: own.value.trim() || t("as it is"), schools: [] },
        ]),
    );
  } else {
    const question = asking.value;
    props.w.editSelf((r) => r.techniques?.find((t) => t.question === question)?.schools.push({ name: word }));
    props.w.see({ question, school: word });
  }
  naming.value = undefined;
  name.value = "";
}
function force(question: string, school: string) {
  props.w.editSelf((r) => {
    const t = r.techniques?.find((x) => x.question === question);
    if (t) t.chosen = school || undefined;
  });
}
function forget(question: string) {
  props.w.editSelf((r) => (r.techniques = r.techniques?.filter((t) => t.question !== question)));
}
function drop() {
  const { variant, question, school } = props.w.look.value;
  props.w.see({});
  props.w.editSelf((r) => {
    if (variant) r.variants = r.variants?.filter((v) => v.name !== variant);
    const t = r.techniques?.find((x) => x.question === question);
    if (t) t.schools = t.schools.filter((s) => s.name !== school);
    if (t?.chosen === school) t!.chosen = undefined;
  });
}
</script>

<template>
  <div class="look">
    <div class="whose">
      <button
        v-for="r in others"
        :key="r.id"
        class="bare tag"
        :class="{ here: w.chosen.value === r.id }"
        :data-test="`write-${r.name}`"
        @click="go(r.id)"
      >
        {{ r.name }}
      </button>
      <button v-if="chosenMix" class="bare tag here">
        <Swatch :colour="chosenMix.colour" :size="12" /> {{ chosenMix.name }}
      </button>
    </div>
    <div class="ways">
      <button class="bare way" :class="{ here: !w.look.value.variant && !w.look.value.school }" @click="w.see({})">
        as it is
      </button>
      <button
        v-for="v in w.base.value?.variants ?? []"
        :key="v.name"
        class="bare way"
        :class="{ here: w.look.value.variant === v.name }"
        :data-test="`variant-${v.name}`"
        @click="w.see({ variant: v.name })"
      >
        {{ v.name }}
      </button>
      <button class="bare add" data-test="add-variant" @click="naming = 'variant'">+ variant</button>
      <span v-for="t in techniques" :key="t.question" class="technique" :data-test="`technique-${t.question}`">
        <span class="quiet">{{ t.question }}</span>
        <select
          :value="t.chosen ?? ''"
          :aria-label="$t('{question}: the way in force', { question: t.question })"
          @change="force(t.question, ($event.target as HTMLSelectElement).value)"
        >
          <option value="">{{ t.as }}</option>
          <option v-for="s in t.schools" :key="s.name" :value="s.name">{{ s.name }}</option>
        </select>
        <button
          v-for="s in t.schools"
          :key="s.name"
          class="bare way"
          :class="{ here: w.look.value.school === s.name && w.look.value.question === t.question }"
          :title="$t('See and write what {name} changes', { name: s.name })"
          @click="w.see({ question: t.question, school: s.name })"
        >
          {{ s.name }}
        </button>
        <button
          v-if="!t.schools.length"
          class="bare"
          :aria-label="$t('Ask no more about {question}', { question: t.question })"
          @click="forget(t.question)"
        >
          ✕
        </button>
        <button
          class="bare add"
          :data-test="`add-school-${t.question}`"
          title="Another way"
          @click="((naming = 'school'), (asking = t.question))"
        >
          +
        </button>
      </span>
      <button class="bare add" data-test="add-technique" @click="naming = 'technique'">+ technique</button>
      <button v-if="w.look.value.variant || w.look.value.school" class="bare drop" @click="drop">
        ✕ take “{{ w.look.value.variant ?? w.look.value.school }}” away
      </button>
    </div>
    <form v-if="naming" class="naming" @submit.prevent="add">
      <input
        v-model="name"
        name="new-name"
        :list="naming === 'technique' ? 'questions' : undefined"
        :placeholder="naming === 'technique' ? $t('what makers disagree about') : $t('its name')"
        autofocus
      />
      <input v-if="naming === 'technique'" v-model="own" name="new-as" placeholder="how it is done here" />
      <datalist id="questions"><option v-for="q in questions" :key="q" :value="q" /></datalist>
      <button class="bare add" type="submit" data-test="name-it">Add it</button>
      <button class="bare" type="button" @click="naming = undefined">leave it</button>
    </form>
    <p v-if="w.look.value.variant || w.look.value.school" class="quiet">
      What you change below is kept as what “{{ w.look.value.variant ?? w.look.value.school }}” changes.
      <template v-if="w.look.value.variant">To end it early, take its last steps away.</template>
    </p>
  </div>
</template>

<style scoped>
.look {
  border-bottom: 1px dashed var(--vein);
  padding-bottom: 8px;
}
.whose,
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 6px;
  align-items: baseline;
}
.ways {
  margin-top: 7px;
  font-size: 0.9rem;
  gap: 4px 12px;
}
.tag {
  padding: 3px 10px;
  border: 1px solid var(--vein);
  border-radius: 2px 9px 2px 9px;
}
.tag.here {
  box-shadow: none;
  background: var(--ink);
  color: var(--sheet);
  border-color: var(--ink);
}
.technique {
  display: inline-flex;
  gap: 7px;
  align-items: baseline;
}
.technique select {
  font: inherit;
  border: 0;
  border-bottom: 1px solid var(--vein);
  background: none;
  color: inherit;
}
.drop {
  color: var(--late);
}
.naming {
  display: flex;
  gap: 12px;
  margin-top: 6px;
}
.naming input {
  font: inherit;
  border: 0;
  border-bottom: 1px solid var(--petal);
  background: none;
  min-width: 220px;
}
p {
  margin: 6px 0 0;
}
</style>
