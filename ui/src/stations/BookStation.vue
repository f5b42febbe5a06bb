<script setup lang="ts">
import { useRouteQuery } from "@vueuse/router";
import { useMutation } from "@tanstack/vue-query";
import { computed, ref, watch } from "vue";
import { useRoute, useRouter } from "vue-router";
import { answered, client, type Schemas } from "../api/client";
import { useBook } from "../api/queries";
import SmallPortrait from "../drawings/SmallPortrait.vue";
import ProblemNote from "../parts/ProblemNote.vue";
import StationHead from "../parts/StationHead.vue";
import { beginningWords } from "../words";
import ColourwaysDialog from "./book/ColourwaysDialog.vue";
import ImportDialog from "./book/ImportDialog.vue";
import { newId } from "./book/writing";
import { t, word } from "../words/said";

const { data: book, error } = useBook();
const router = useRouter();
const text = useRouteQuery("text", "", { mode: "replace" });
const kind = useRouteQuery<"flower" | "part" | "mix" | "ordered">("kind", "flower", { mode: "push" });
const beginning = ref("new" in useRoute().query);
const taking = ref(false);
const colouring = ref("colourways" in useRoute().query);
const name = ref("");

const kinds = [
  { key: "flower" as const, name: t("Flowers, sprigs, sprays") },
  { key: "part" as const, name: t("Parts") },
  { key: "mix" as const, name: t("Mixes") },
  { key: "ordered" as const, name: t("On order") },
];
/** What is found as one types: by name first, then by what goes into it. */
const words = computed(
  () => new Map((book.value?.pages ?? []).map((p) => [p, [p.name, ...p.parts].join("\n").toLowerCase()])),
);
const found = computed(() => {
  const sought = (text.value ?? "").trim().toLowerCase().split(/\s+/).filter(Boolean);
  const all = book.value?.pages ?? [];
  const fits = (p: Schemas["Page"]) =>
    kind.value === "ordered"
      ? p.ordered > 0
      : kind.value === "flower"
        ? p.kind === "flower" || p.kind === "spray"
        : p.kind === kind.value;
  if (!sought.length) return all.filter(fits);
  const named = all.filter((p) => sought.every((w) => p.name.toLowerCase().includes(w)));
  const holding = all.filter((p) => !named.includes(p) && sought.every((w) => words.value.get(p)!.includes(w)));
  return [...named, ...holding];
});
/** A book of hundreds is laid out as one turns it. */
const step = 20;
const limit = ref(step);
watch([text, kind], () => (limit.value = step));
const shown = computed(() => found.value.slice(0, limit.value));
const says = computed(() =>
  book.value
    ? t("{kind} flowers and sprays, {pages} recipes in all", {
        kind: book.value.pages.filter((p) => p.kind !== "mix" && p.kind !== "part").length,
        pages: book.value.pages.length,
      })
    : "",
);
const begin = useMutation({
  mutationFn: (pattern: string) =>
    answered(client.POST("/api/book/begin", { body: { pattern, name: name.value.trim() } })),
  onSuccess: (recipes) => router.push({ path: "/book/new", state: { begin: JSON.stringify(recipes) } }),
});
function blank(of: "part" | "mix") {
  const id = newId();
  const recipe = {
    id,
    recipe: id,
    revision: 0,
    name: name.value.trim(),
    kind: of,
    form: of === "mix" ? "paste" : "petal",
    spares: of === "mix" ? { rule: "none" } : { rule: "breakage", breakagePerMille: 50 },
    steps: [
      {
        key: "work",
        name: of === "mix" ? t("Weigh and knead") : t("Shape"),
        work: {
          glyph: of === "mix" ? "mix" : "shape",
          skill: of === "mix" ? "mixing" : "shaping",
          setupMilliminutes: 8000,
          pieceMilliminutes: 2000,
          mayPause: true,
        },
      },
    ],
    ...(of === "mix" ? { colour: "#e8d9c5", lifeMinutes: 14 * 1440, blend: [] } : {}),
  };
  void router.push({ path: "/book/new", state: { begin: JSON.stringify([recipe]) } });
}
</script>

<template>
  <div class="station">
    <StationHead title="Flower book" :says="says">
      <button class="bare word-link" data-test="open-colourways" @click="colouring = true">Colourways</button>
      <a class="bare word-link" href="/api/book/export" download>Hand on the book</a>
      <button class="bare word-link" data-test="open-import" @click="taking = true">Take in recipes</button>
      <v-btn color="primary" size="large" data-test="new-recipe" @click="beginning = !beginning">Begin a recipe</v-btn>
    </StationHead>
    <ProblemNote :error="error ?? begin.error.value" />

    <section v-if="beginning" class="sheet begin" data-test="begin">
      <h2>A new recipe</h2>
      <label>It is called <input v-model="name" name="begin-name" autofocus /></label>
      <p class="quiet">Choose how it is made; everything filled in can be changed.</p>
      <div class="patterns">
        <button
          v-for="p in book?.patterns"
          :key="p.key"
          class="bare pattern"
          :data-test="`pattern-${p.key}`"
          :disabled="!name.trim()"
          @click="begin.mutate(p.key)"
        >
          <b>{{ beginningWords(p.key).name }}</b> <span class="quiet">{{ beginningWords(p.key).says }}</span>
        </button>
        <button class="bare pattern" data-test="pattern-part" :disabled="!name.trim()" @click="blank('part')">
          <b>A part by itself</b> <span class="quiet">one piece, from nothing</span>
        </button>
        <button class="bare pattern" data-test="pattern-mix" :disabled="!name.trim()" @click="blank('mix')">
          <b>A mix</b> <span class="quiet">paste, dust, glue, icing: its blend and what is kneaded in</span>
        </button>
      </div>
    </section>

    <div class="seek">
      <input
        v-model="text"
        name="seek"
        type="search"
        placeholder="Find a recipe, or what one goes into"
        aria-label="Find a recipe"
      />
      <nav v-if="!text">
        <button
          v-for="k in kinds"
          :key="k.key"
          class="bare"
          :class="{ here: kind === k.key }"
          :data-test="`kind-${k.key}`"
          @click="kind = k.key"
        >
          {{ k.name }}
        </button>
      </nav>
      <span v-else class="quiet">{{ found.length }} found</span>
    </div>
    <ul v-if="book?.drafts.length" class="drafts" data-test="drafts">
      <li v-for="d in book.drafts" :key="d.id">
        <RouterLink :to="`/book/drafts/${d.id}`">{{ d.name || $t("unnamed") }}</RouterLink>
        <span class="word tight">draft</span>
      </li>
    </ul>
    <p v-if="book && !found.length" class="sheet empty">
      {{
        text
          ? $t("Nothing of that name, and nothing that such a thing goes into.")
          : $t("The book is empty. Begin a recipe, or take in a file of recipes.")
      }}
    </p>
    <ul class="pages">
      <li v-for="(p, i) in shown" :key="i">
        <a
          :href="`/book/pages/${p.page}`"
          class="sheet one"
          :data-test="`page-${p.name}`"
          @click.exact.prevent="router.push(`/book/pages/${p.page}`)"
        >
          <SmallPortrait class="drawn" :of="p.portrait" />
          <span>
            <b>{{ p.name }}</b>
            <span class="quiet"
              >{{ word(p.kind) }}<template v-if="p.variants.length">, also {{ p.variants.join(", ") }}</template></span
            >
            <span v-if="p.ordered" class="quiet">{{ p.ordered }} on order</span>
            <span v-if="p.behind" class="word tight">{{ p.behind }} on an earlier revision</span>
          </span>
        </a>
      </li>
    </ul>
    <div v-if="shown.length < found.length" v-intersect="(inside: boolean) => inside && (limit += step)" class="more">
      …
    </div>
    <ImportDialog v-if="taking && book" :most="book.mostBytes" @close="taking = false" />
    <ColourwaysDialog
      v-if="colouring && book"
      :colourways="book.colourways"
      :pages="book.pages"
      @close="colouring = false"
    />
  </div>
</template>

<style scoped>
.word-link {
  color: var(--leaf);
  font-weight: 650;
  text-decoration: none;
}
.seek {
  display: flex;
  gap: 26px;
  align-items: baseline;
  margin-bottom: 14px;
}
.seek input {
  font: inherit;
  font-size: 1.1333rem;
  width: 340px;
  padding: 6px 10px;
  border: 1px solid var(--vein);
  border-radius: 2px 11px 2px 11px;
  background: var(--sheet);
  color: inherit;
}
nav {
  display: flex;
  gap: 20px;
}
.pages,
.drafts {
  list-style: none;
  margin: 0;
  padding: 0;
}
.drafts {
  display: flex;
  gap: 20px;
  margin-bottom: 12px;
}
.pages {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(262px, 1fr));
  gap: 10px;
}
.one {
  display: flex;
  gap: 14px;
  align-items: center;
  padding: 9px 12px;
  min-height: 104px;
  color: inherit;
  text-decoration: none;
}
.one:hover {
  border-color: var(--petal);
}
.one span span {
  display: block;
}
.one .drawn {
  flex: none;
  width: 84px;
  height: 84px;
}
.one b {
  font: 560 1.1333rem var(--name);
}
.one .word {
  display: inline-flex;
  font-size: 0.8667rem;
}
.begin {
  padding: 16px 22px;
  margin-bottom: 16px;
}
.begin input {
  font: 560 1.2667rem var(--name);
  border: 0;
  border-bottom: 1px solid var(--petal);
  background: none;
  color: inherit;
  min-width: 320px;
}
.patterns {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 8px 26px;
}
.pattern {
  padding: 6px 0;
  border-top: 1px solid var(--vein);
}
.pattern:disabled {
  opacity: 0.5;
  cursor: default;
}
.pattern b {
  display: block;
}
.empty {
  padding: 24px;
}
@media (max-width: 900px) {
  .patterns {
    grid-template-columns: 1fr;
  }
}
</style>
