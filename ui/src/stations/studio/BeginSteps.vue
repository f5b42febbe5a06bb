<script setup lang="ts">
import { computed } from "vue";
import { useRoute } from "vue-router";
import { useStudio, useUsual, useWorkshop } from "../../api/queries";
import ProblemNote from "../../parts/ProblemNote.vue";
import { t } from "../../words/said";
import BeginCupboard from "./BeginCupboard.vue";
import BeginFlowers from "./BeginFlowers.vue";
import BeginPeople from "./BeginPeople.vue";
import BeginPlaces from "./BeginPlaces.vue";

/** What a first plan needs, page by page, in the order in which one would tell it; left at any moment, gone on with later. */
const { data: shop, error } = useWorkshop();
const { data: usual } = useUsual();
const { data: studio } = useStudio();
const route = useRoute();
const pages = [
  { step: "people", title: t("Who works here"), asks: t("Who works here, and when?") },
  { step: "places", title: t("Where things dry"), asks: t("Where do things dry, and what do they lie in?") },
  { step: "materials", title: t("The cupboard"), asks: t("What is in the cupboard?") },
  { step: "flowers", title: t("The first flowers"), asks: t("Which flowers are made here?") },
  { step: "order", title: t("The first order"), asks: t("What has been promised?") },
];
const at = computed(() =>
  Math.max(
    0,
    pages.findIndex((p) => p.step === route.params.step),
  ),
);
const page = computed(() => pages[at.value]!);
const there = (step: string) => studio.value?.first?.find((f) => f.what === step)?.there ?? (studio.value ? 1 : 0);
</script>

<template>
  <div class="station steps" data-test="steps">
    <ol class="way no-print">
      <li class="done"><span>1 · The studio</span></li>
      <li v-for="(p, i) in pages" :key="p.step" :class="{ here: i === at, done: there(p.step) }">
        <RouterLink :to="`/beginning/${p.step}`" :aria-current="i === at ? 'step' : undefined">
          {{ i + 2 }} · {{ p.title }}
        </RouterLink>
      </li>
    </ol>
    <h1>{{ page.asks }}</h1>
    <ProblemNote :error="error" />
    <template v-if="shop">
      <BeginPeople v-if="page.step === 'people'" :shop="shop" />
      <BeginPlaces v-else-if="page.step === 'places'" :shop="shop" :usual="usual" />
      <BeginCupboard v-else-if="page.step === 'materials'" :shop="shop" :usual="usual" />
      <BeginFlowers v-else-if="page.step === 'flowers'" :usual="usual" />
      <section v-else class="sheet last">
        <p>An order says what leaves the studio, and when. With the first one there is a plan.</p>
        <RouterLink class="go" to="/orders?new" data-test="first-order">Enter the first order</RouterLink>
      </section>
    </template>
    <footer class="no-print">
      <RouterLink v-if="at > 0" class="quiet" :to="`/beginning/${pages[at - 1]!.step}`">back</RouterLink>
      <span class="grow" />
      <RouterLink class="quiet" to="/studio">Look at the studio, go on later</RouterLink>
      <RouterLink v-if="at < pages.length - 1" class="go" data-test="step-on" :to="`/beginning/${pages[at + 1]!.step}`">
        Go on: {{ pages[at + 1]!.title }}
      </RouterLink>
    </footer>
  </div>
</template>

<style scoped>
.steps {
  max-width: 1160px;
}
.way {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 18px;
  padding: 0;
  margin: 0 0 14px;
  list-style: none;
  color: var(--soft);
}
.way a {
  color: inherit;
  text-decoration: none;
}
.way .done::after {
  content: " ✓";
  color: var(--leaf);
}
.way .here {
  color: var(--ink);
  font-weight: 650;
  border-bottom: 3px solid var(--leaf);
}
h1 {
  margin-bottom: 14px;
}
.last {
  padding: 18px 22px;
}
footer {
  display: flex;
  gap: 22px;
  align-items: center;
  margin: 20px 0;
}
.go {
  display: inline-flex;
  align-items: center;
  min-height: 48px;
  padding: 0 20px;
  font: 600 1.05rem var(--count);
  color: var(--on-ink);
  background: var(--leaf);
  border-radius: 3px 16px;
  text-decoration: none;
}
</style>
