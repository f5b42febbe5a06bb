<script setup lang="ts">
import type { Schemas } from "../api/client";
import SafetyWord from "./SafetyWord.vue";
import { totalWords } from "../words";
import { differenceWords } from "../words/differences";

/** What a wish would do, before it is wished. */
defineProps<{ effect: Schemas["Effect"] }>();
</script>

<template>
  <div class="effect" data-test="effect">
    <p>
      <b>{{ effect.differences.moved.length }}</b> tasks of the plan would move,
      <b>{{ effect.differences.added.length }}</b> come in, <b>{{ effect.differences.gone.length }}</b> go.
    </p>
    <ul>
      <li v-for="o in effect.orders" :key="o.name">
        {{ o.name }}: <SafetyWord v-if="o.is" :outcome="o.is" /> &nbsp;<span class="quiet"
          >was&nbsp; <SafetyWord v-if="o.was" :outcome="o.was"
        /></span>
      </li>
    </ul>
    <template v-if="effect.each.length">
      <b>For one flower:</b>
      <ul>
        <li v-for="d in effect.each" :key="d.what + d.of">{{ totalWords(d) }}: {{ differenceWords(d) }}</li>
      </ul>
    </template>
  </div>
</template>

<style scoped>
ul {
  margin: 4px 0;
  padding-left: 18px;
}
p {
  margin: 4px 0;
}
.before {
  margin-left: 10px;
}
.before :deep(.word) {
  margin-left: 5px;
}
</style>
