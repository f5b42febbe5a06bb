<script setup lang="ts">
import { useMutation, useQuery } from "@tanstack/vue-query";
import { useEventListener } from "@vueuse/core";
import { computed, ref, watch } from "vue";
import { onBeforeRouteLeave, useRoute, useRouter } from "vue-router";
import { answered, client, person, Refused, useCommands, type Schemas } from "../../api/client";
import { useBook } from "../../api/queries";
import FlowerPortrait from "../../drawings/FlowerPortrait.vue";
import StepStrip from "../../drawings/StepStrip.vue";
import ProblemNote from "../../parts/ProblemNote.vue";
import { columnsFor, forms } from "./columns";
import { placeWords } from "../../parts/fields/fields";
import ColourChooser from "./ColourChooser.vue";
import ComparePanel from "./ComparePanel.vue";
import LookBar from "./LookBar.vue";
import MoveLines from "./MoveLines.vue";
import PartsPanel from "./PartsPanel.vue";
import PicturesPanel from "./PicturesPanel.vue";
import RingTools from "./RingTools.vue";
import QuantitiesPanel from "./QuantitiesPanel.vue";
import StepList from "./StepList.vue";
import ThingDialog from "./ThingDialog.vue";
import TotalsSheet from "./TotalsSheet.vue";
import WarningList from "./WarningList.vue";
import { newId, type Recipe, useWriting } from "./writing";
import { t, word } from "../../words/said";
import { inWords } from "../../words/refusals";

const route = useRoute();
const router = useRouter();
const { data: book } = useBook();
const w = useWriting();
const tab = ref<"parts" | "steps" | "quantities" | "pictures" | "compare">("parts");
const openStep = ref("");
const adding = ref(false);
const draft = ref<{ id: string; version: number }>();
const page = computed(() => (typeof route.params.page === "string" ? route.params.page : ""));
const draftId = computed(() => (typeof route.params.draft === "string" ? route.params.draft : ""));
const opened = useQuery({
  queryKey: ["page", page],
  queryFn: () => answered(client.GET("/api/book/pages/{page}", { params: { path: { page: page.value } } })),
  enabled: computed(() => page.value !== ""),
});
const begun = ref("");

/** What is open is begun once; what others do meanwhile is told when it is written. */
watch(
  [() => opened.data.value, page],
  ([now]) => {
    if (!now || begun.value === page.value) return;
    begun.value = page.value;
    draft.value = undefined;
    w.begin(now.recipes);
    w.knows(now.recipes);
    openStep.value = now.recipes[0]?.steps[0]?.key ?? "";
  },
  { immediate: true },
);
const missing = ref<unknown>();
watch(
  draftId,
  async (id) => {
    if (!id || begun.value === id) return;
    begun.value = id;
    try {
      const d = await answered(client.GET("/api/book/drafts/{id}", { params: { path: { id } } }));
      draft.value = { id, version: d.version };
      await openDraft(d.recipes);
    } catch (error) {
      missing.value = error;
    }
  },
  { immediate: true },
);
/** A draft holds what is new or changed; the rest of what goes into it comes from the book. */
async function openDraft(recipes: Recipe[]) {
  w.begin(recipes);
  openStep.value = recipes[0]?.steps[0]?.key ?? "";
  for (const r of recipes.slice()) for (const p of r.parts ?? []) await bring(p.recipe);
}
/** Brings a recipe of the book, and what goes into it, to what is being written. */
async function bring(recipe: string) {
  const known = book.value?.pages.find((p) => p.recipe === recipe);
  if (!known || w.recipes.value.some((r) => r.id === recipe)) return;
  const of = await answered(client.GET("/api/book/pages/{page}", { params: { path: { page: known.page } } }));
  const fresh = of.recipes.filter((r) => !w.recipes.value.some((x) => x.id === r.id));
  w.knows(fresh);
  w.recipes.value = [...w.recipes.value, ...fresh];
}
watch(
  () => (w.base.value?.parts ?? []).map((p) => p.recipe).join(),
  () => (w.base.value?.parts ?? []).forEach((p) => void bring(p.recipe)),
);
/** Begins with recipes that nobody has kept yet. */
function beginNew(recipes: Recipe[]) {
  begun.value = "new";
  draft.value = undefined;
  w.begin(recipes);
  openStep.value = recipes[0]?.steps[0]?.key ?? "";
}
watch(
  () => route.path,
  (path) => {
    const given = (history.state as { begin?: string }).begin;
    if (path === "/book/new" && given) beginNew(JSON.parse(given) as Recipe[]);
  },
  { immediate: true },
);
watch(
  () => book.value?.colourways,
  (all) => {
    if (!w.colourway.value && all?.length) w.colourway.value = all[0]!.id;
  },
  { immediate: true },
);

const shown = computed(() => w.edited.value ?? w.base.value);
const columns = computed(() =>
  book.value && shown.value ? columnsFor(book.value.words, shown.value, w.recipes.value, book.value.pages) : undefined,
);
const problems = computed(() => w.whole.data.value?.problems ?? []);
const here = computed(() => {
  const { variant, question, school } = w.look.value;
  if (variant) {
    const i = (w.base.value?.variants ?? []).findIndex((v) => v.name === variant);
    return `variants[${i}] "${variant}".`;
  }
  if (school) {
    const i = (w.base.value?.techniques ?? []).findIndex((t) => t.question === question);
    const j = (w.base.value?.techniques?.[i]?.schools ?? []).findIndex((s) => s.name === school);
    return `techniques[${i}] "${question}".schools[${j}] "${school}".`;
  }
  return "";
});
function flaw(place: string): string | undefined {
  const p = problems.value.find((p) => p.recipe === w.chosen.value && p.place === here.value + place);
  return p && inWords(p.message, p.says);
}
const sheet = computed(() => w.sheet.value);
const portrait = computed(() => sheet.value?.portrait);
const isMix = computed(() => shown.value?.kind === "mix");
const whole = computed(() => w.chosen.value === w.root.value?.id);
const known = computed(() => book.value?.pages.find((p) => p.recipe === w.root.value?.id));
const standing = computed(() => {
  if (draft.value) return t("a draft: it cannot be ordered yet");
  if (!known.value) return t("new, not in the book yet");
  return t("revision {revision}{changed}", {
    revision: known.value.revision,
    changed: w.changed.value.length ? t(", {changed} changed here", { changed: w.changed.value.length }) : "",
  });
});
const tabs = computed(() => [
  { key: "parts" as const, name: isMix.value ? t("Blend") : t("Parts") },
  { key: "steps" as const, name: t("Steps") },
  { key: "quantities" as const, name: t("Lots") },
  { key: "pictures" as const, name: t("Pictures") },
  { key: "compare" as const, name: t("Compare") },
]);

/** True once nothing is lost by leaving the page. */
const saved = ref(false);
watch(
  () => w.recipes.value,
  () => (saved.value = false),
);
const send = useCommands();
const keep = useMutation({
  mutationFn: () =>
    send(["draft", draft.value?.version, w.changed.value], (header) => {
      const id = draft.value?.id ?? newId();
      const recipes = w.changed.value.length ? w.changed.value : w.recipes.value.slice(0, 1);
      const first = w.root.value!;
      const body = {
        name: first.name,
        recipes: recipes.some((r) => r.id === first.id) ? recipes : [first, ...recipes],
      };
      return answered(
        client.PUT("/api/book/drafts/{id}", {
          params: { path: { id }, header: { ...header, "If-Match": draft.value?.version ?? 0 } },
          body,
        }),
      );
    }),
  onSuccess: (kept) => {
    draft.value = { id: kept.id, version: kept.version };
    begun.value = kept.id;
    saved.value = true;
    void router.replace(`/book/drafts/${kept.id}`);
  },
});
const publish = useMutation({
  mutationFn: () =>
    send(["publish", w.changed.value], (header) => {
      const first = w.root.value!;
      const rest = w.changed.value.filter((r) => r.id !== first.id);
      return answered(
        client.POST("/api/book/publish", {
          params: { header },
          body: { recipes: [first, ...rest], draft: draft.value?.id, draftVersion: draft.value?.version },
        }),
      );
    }),
  onSuccess: async (done) => {
    saved.value = true;
    begun.value = "";
    draft.value = undefined;
    w.begin([]);
    if (page.value === done.page) await opened.refetch();
    else await router.replace(`/book/pages/${done.page}`);
  },
});
const failure = computed(
  () => publish.error.value ?? keep.error.value ?? missing.value ?? opened.error.value ?? w.whole.error.value,
);
const theirs = computed(() =>
  failure.value instanceof Refused && failure.value.status === 412 ? failure.value.fields : [],
);

async function duplicate() {
  const root = w.root.value!;
  const id = newId();
  const twin = { ...root, id, recipe: id, revision: 0, name: t("{name} copy", { name: root.name }) };
  if (route.path === "/book/new") beginNew([twin]);
  else await router.push({ path: "/book/new", state: { begin: JSON.stringify([twin]) } });
}
async function choose(recipe: string, step: string) {
  await bring(recipe);
  if (!w.recipes.value.some((r) => r.id === recipe)) return;
  w.turnTo(recipe);
  openStep.value = step || (w.base.value?.steps[0]?.key ?? "");
  if (step) tab.value = "steps";
}
/** Makes the flower in runs or in phases: its fresh inputs belong to the run, or have lots of their own. */
function work(school: Schemas["School"]) {
  const flower = w.root.value;
  if (!flower) return;
  w.editOf(flower.id, (r) => {
    for (const i of school.inputs) if (r.parts?.[i]) r.parts[i].inRun = school.runs || undefined;
  });
}
function chooseRing(input: number) {
  const part = w.root.value?.parts?.[input];
  if (part) void choose(part.recipe, "");
  tab.value = "parts";
}
const selectedRing = computed(() => {
  const i = (w.root.value?.parts ?? []).findIndex((p) => p.recipe === w.chosen.value);
  return i < 0 || whole.value ? undefined : i;
});
function press(event: KeyboardEvent) {
  if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "z") return;
  event.preventDefault();
  if (event.shiftKey) w.redo();
  else w.undo();
}
useEventListener("keydown", press);
onBeforeRouteLeave(
  () =>
    !(w.canUndo.value && w.changed.value.length) ||
    saved.value ||
    window.confirm(t("What you changed here is not kept yet. Leave it?")),
);
</script>

<template>
  <div class="station page">
    <header v-if="w.root.value" class="head">
      <RouterLink to="/book" class="back" title="The flower book">‹</RouterLink>
      <div class="title">
        <h1>
          <input
            name="recipe-name"
            aria-label="Name of the recipe"
            :value="w.root.value.name"
            @change="
              choose(w.root.value!.id, '');
              w.editSelf((r) => (r.name = ($event.target as HTMLInputElement).value));
            "
          />
        </h1>
        <p class="quiet" data-test="standing">{{ standing }}</p>
      </div>
      <button class="bare" data-test="undo" :disabled="!w.canUndo.value" title="Undo (Ctrl Z)" @click="w.undo()">
        ↶ undo
      </button>
      <button class="bare" :disabled="!w.canRedo.value" title="Redo (Ctrl Shift Z)" @click="w.redo()">↷ redo</button>
      <button class="bare" data-test="duplicate" @click="duplicate">Duplicate</button>
      <a v-if="known" class="bare" :href="`/api/book/export?page=${known.page}`" download>Hand on</a>
      <RouterLink v-if="known" class="bare" :to="`/book/pages/${known.page}/paper`" data-test="recipe-paper"
        >On paper</RouterLink
      >
      <button class="bare" data-test="add-thing" @click="adding = true">New material…</button>
      <v-btn
        variant="outlined"
        data-test="keep-draft"
        :disabled="!person || w.busy.value || (!w.changed.value.length && !draft)"
        :loading="keep.isPending.value"
        @click="keep.mutate()"
        >Keep as a draft</v-btn
      >
      <v-btn
        color="primary"
        data-test="publish"
        :disabled="!person || w.busy.value || problems.length > 0 || (!w.changed.value.length && !draft)"
        :loading="publish.isPending.value"
        @click="publish.mutate()"
      >
        {{ person ? $t("Write into the book") : $t("Say who is here first") }}
      </v-btn>
    </header>
    <ProblemNote :error="failure" />
    <ul v-if="theirs.length" class="quiet">
      <li v-for="f in theirs" :key="f.location">
        {{ placeWords(f.location.replace("body.", "")) }} {{ f.message }}, is {{ f.value }}
      </li>
    </ul>
    <p v-if="w.refused.value" class="problems" role="alert">{{ w.refused.value }}</p>
    <MoveLines v-if="opened.data.value?.lines.length && !draft" :page="page" :lines="opened.data.value.lines" />

    <div v-if="columns && book" class="desk">
      <aside>
        <div class="sheet picture" data-test="portrait">
          <RingTools v-if="selectedRing !== undefined" :w="w" :input="selectedRing" />
          <FlowerPortrait v-if="portrait" :of="portrait" :selected="selectedRing" @choose="chooseRing" />
          <p v-else class="quiet">Drawn once nothing is wrong.</p>
        </div>
        <WarningList
          :warnings="w.whole.data.value?.warnings ?? []"
          :recipes="w.recipes.value"
          @silence="
            (recipe, change) => {
              choose(recipe, '');
              w.editSelf(change);
            }
          "
        />
        <ColourChooser
          v-model="w.colourway.value"
          :colourways="book.colourways"
          :pages="book.pages"
          :slots="w.whole.data.value?.slots ?? []"
        />
        <TotalsSheet
          v-if="sheet"
          v-model="w.quantity.value"
          :sheet="sheet"
          :cost="w.whole.data.value?.cost"
          :old="problems.length > 0"
          :against="w.whole.data.value?.against ?? []"
          @school="work"
        />
      </aside>
      <section>
        <div class="sheet along">
          <StepStrip v-if="sheet" :sheet="sheet" :chosen="w.chosen.value" @choose="choose" />
        </div>
        <ul v-if="problems.length" class="problems" data-test="problems">
          <li v-for="(p, i) in problems.slice(0, 6)" :key="i">
            <button class="bare" @click="choose(p.recipe, '')">
              <b>{{ p.name }}</b>, {{ placeWords(p.place) }} {{ inWords(p.message, p.says) }}
            </button>
          </li>
          <li v-if="problems.length > 6">and {{ problems.length - 6 }} more</li>
        </ul>
        <div class="sheet writing" data-test="writing" :aria-busy="w.open.value">
          <LookBar :w="w" />
          <div class="what">
            <label>
              <span>called</span>
              <input
                name="chosen-name"
                :value="w.base.value?.name"
                @change="w.editSelf((r) => (r.name = ($event.target as HTMLInputElement).value))"
              />
            </label>
            <label>
              <span>looks like</span>
              <select
                name="chosen-form"
                :value="w.base.value?.form"
                @change="w.editSelf((r) => (r.form = ($event.target as HTMLSelectElement).value))"
              >
                <option v-for="f in [...new Set([...forms, w.base.value?.form ?? ''])]" :key="f" :value="f">
                  {{ word(f) }}
                </option>
              </select>
            </label>
            <label>
              <span>is a</span>
              <select
                name="chosen-kind"
                :value="w.base.value?.kind"
                @change="w.editSelf((r) => (r.kind = ($event.target as HTMLSelectElement).value))"
              >
                <option v-for="k in ['mix', 'part', 'flower', 'spray']" :key="k" :value="k">{{ k }}</option>
              </select>
            </label>
            <nav>
              <button
                v-for="t in tabs"
                :key="t.key"
                class="bare"
                :class="{ here: tab === t.key }"
                :data-test="`tab-${t.key}`"
                @click="tab = t.key"
              >
                {{ t.name }}
              </button>
            </nav>
          </div>
          <p v-if="!w.edited.value" class="quiet">Working out what it comes to…</p>
          <PartsPanel
            v-else-if="tab === 'parts'"
            :w="w"
            :columns="columns"
            :flaw="flaw"
            :words="book.words"
            :book="book.pages"
            @choose="choose"
          />
          <StepList
            v-else-if="tab === 'steps'"
            v-model:open="openStep"
            :recipe="w.edited.value"
            :columns="columns"
            :gates="book.words.gates.map((g) => ({ title: g.name, value: g.id }))"
            :flaw="flaw"
            @edit="w.edit"
          />
          <QuantitiesPanel
            v-else-if="tab === 'quantities'"
            :w="w"
            :columns="columns"
            :flaw="flaw"
            :pages="book.pages"
          />
          <PicturesPanel v-else-if="tab === 'pictures'" :w="w" :opened="opened.data.value" />
          <ComparePanel v-else :w="w" :pages="book.pages" />
        </div>
      </section>
    </div>
    <ThingDialog v-if="adding" @close="adding = false" />
  </div>
</template>

<style scoped>
.page {
  padding-top: 12px;
}
.head {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 16px;
  margin-bottom: 10px;
}
.head > .bare {
  color: var(--leaf);
  font-weight: 600;
  white-space: nowrap;
  text-decoration: none;
}
.head > .bare:disabled {
  color: var(--vein);
}
.back {
  font: 2rem/1 var(--name);
  color: var(--soft);
  text-decoration: none;
}
.title {
  flex: 1;
  min-width: 180px;
}
.title p {
  margin: 0;
}
h1 input {
  font: inherit;
  color: inherit;
  width: 100%;
  border: 0;
  border-bottom: 1px solid transparent;
  background: none;
  padding: 0;
}
h1 input:hover,
h1 input:focus {
  border-color: var(--vein);
  outline: none;
}
.desk {
  display: grid;
  grid-template-columns: 330px minmax(0, 1fr);
  gap: 18px;
  align-items: start;
}
.picture {
  display: flex;
  flex-direction: column;
  height: 318px;
  padding: 6px;
}
.picture :deep(.portrait) {
  flex: 1;
  min-height: 0;
}
.along {
  padding: 10px 14px 12px;
  margin-bottom: 12px;
  max-height: 258px;
  overflow-y: auto;
}
.writing {
  padding: 12px 16px 14px;
}
.what {
  display: flex;
  gap: 14px;
  align-items: flex-end;
  flex-wrap: wrap;
  margin: 8px 0 12px;
}
.what label span {
  display: block;
  font-size: 0.8rem;
  color: var(--soft);
}
.what input,
.what select {
  font: inherit;
  font-size: 0.9333rem;
  padding: 3px 5px;
  border: 0;
  border-bottom: 1px solid var(--vein);
  background: none;
  color: inherit;
}
.what input {
  width: 150px;
}
.what nav {
  display: flex;
  gap: 16px;
  flex: 1;
  justify-content: flex-end;
}
.problems {
  margin: 0 0 12px;
  padding: 8px 14px 8px 30px;
  background: var(--petal-wash);
  border-left: 4px solid var(--late);
}
p.problems {
  padding-left: 14px;
}
@media (max-width: 1000px) {
  .desk {
    grid-template-columns: 1fr;
  }
}
</style>
