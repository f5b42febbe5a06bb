<script setup lang="ts">
import { computed } from "vue";
import type { Schemas } from "../../api/client";
import { t } from "../../words/said";

/** What is still missing for a first plan, why, and the way there; nothing once there is one. */
const props = defineProps<{ first: Schemas["Begun"][] }>();
const steps: Record<string, { says: string; why: string; to: string; does: string }> = {
  people: {
    says: t("Who works here"),
    why: t("A plan gives each task to somebody who can do it, in their hours."),
    to: "/beginning/people",
    does: t("Say who works here"),
  },
  places: {
    says: t("Where things dry"),
    why: t("Pieces wait in something: a plan never fills more cups than there are."),
    to: "/beginning/places",
    does: t("Say where things dry"),
  },
  materials: {
    says: t("What is in the cupboard"),
    why: t("Wires and pastes that are short are ordered in time."),
    to: "/beginning/materials",
    does: t("Count what is there, roughly"),
  },
  flowers: {
    says: t("The first flowers"),
    why: t("A recipe says of what parts a flower is, and how long each step takes."),
    to: "/beginning/flowers",
    does: t("Choose the first flowers"),
  },
  order: {
    says: t("The first order"),
    why: t("With it there is a plan."),
    to: "/orders?new",
    does: t("Enter the first order"),
  },
};
const missing = computed(() => props.first.filter((f) => !f.there));
</script>

<template>
  <section v-if="missing.length" class="sheet first-plan no-print" data-test="first-plan">
    <h2>To a first plan</h2>
    <ol>
      <li v-for="f in first" :key="f.what" :class="{ there: f.there }" :data-test="`first-${f.what}`">
        <b>{{ steps[f.what]?.says }}</b>
        <template v-if="f.there">: {{ $t("{n} is | {n} are", f.there) }} there</template>
        <template v-else>
          <small>{{ steps[f.what]?.why }}</small>
          <RouterLink
            v-if="f === missing[0] || f.what !== 'order'"
            class="add"
            :data-test="`go-${f.what}`"
            :to="steps[f.what]?.to ?? '/studio'"
          >
            {{ steps[f.what]?.does }}
          </RouterLink>
        </template>
      </li>
    </ol>
  </section>
</template>

<style scoped>
.first-plan {
  padding: 12px 20px;
  margin: 12px 26px 0;
}
ol {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 26px;
  list-style: none;
  padding: 0;
  margin: 6px 0 0;
}
li {
  max-width: 15rem;
}
li.there {
  color: var(--soft);
}
li.there b::before {
  content: "✓ ";
  color: var(--leaf);
}
small {
  display: block;
  color: var(--soft);
}
</style>
