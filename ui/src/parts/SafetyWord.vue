<script setup lang="ts">
import { computed } from "vue";
import type { Schemas } from "../api/client";
import { lasting } from "../format";
import { t } from "../words/said";

/** How safe an order is, in words and a shape. */
const props = defineProps<{ outcome?: Schemas["Outcome"] }>();

const word = computed(() => {
  const o = props.outcome;
  if (!o) return { kind: "plain", text: t("not planned") };
  if (o.slack === undefined) return { kind: "late", text: t("cannot be finished") };
  if (o.late > 0) return { kind: "late", text: t("{late} late", { late: lasting(o.late) }) };
  return { kind: o.slack < 24 * 60 ? "tight" : "safe", text: t("{slack} slack", { slack: lasting(o.slack) }) };
});
</script>

<template>
  <span class="word" :class="word.kind">{{ word.text }}</span>
</template>
