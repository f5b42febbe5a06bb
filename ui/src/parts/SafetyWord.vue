<script setup lang="ts">
import { computed } from "vue";
import type { Schemas } from "../api/client";
import { lasting } from "../format";

/** How safe an order is, in words and a shape. */
const props = defineProps<{ outcome?: Schemas["Outcome"] }>();

const word = computed(() => {
  const o = props.outcome;
  if (!o) return { kind: "plain", text: "not planned" };
  if (o.slack === undefined) return { kind: "late", text: "cannot be finished" };
  if (o.late > 0) return { kind: "late", text: `${lasting(o.late)} late` };
  return { kind: o.slack < 24 * 60 ? "tight" : "safe", text: `${lasting(o.slack)} slack` };
});
</script>

<template>
  <span class="word" :class="word.kind">{{ word.text }}</span>
</template>
