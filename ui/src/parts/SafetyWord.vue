<script setup lang="ts">
import { computed } from "vue";
import type { Schemas } from "../api/client";
import { standing } from "../stations/orders/standing";

/** How safe an order is, in words and a shape. */
const props = defineProps<{ outcome?: Schemas["Outcome"] }>();
const word = computed(() => standing(props.outcome));
</script>

<template>
  <span class="word" :class="word.kind">{{ word.text }}</span>
</template>
