<script setup lang="ts">
import type { Schemas } from "../../api/client";
import EffectNote from "../../parts/EffectNote.vue";
import { effectLine } from "../../words/workshop";

/** What a change would do to the plan, in one line, before it counts. */
defineProps<{ effect?: Schemas["Effect"]; pending: boolean }>();
</script>

<template>
  <div class="does" role="status" data-test="does">
    <template v-if="effect">
      <b>{{ effectLine(effect) }}</b>
      <details v-if="effect.differences.moved.length">
        <summary>Which orders</summary>
        <EffectNote :effect="effect" />
      </details>
    </template>
    <span v-else-if="pending" class="quiet">What it does to the plan is being worked out…</span>
  </div>
</template>

<style scoped>
.does {
  margin: 10px 0;
  padding: 8px 12px;
  background: var(--dust-wash);
  border-left: 4px solid var(--dust);
  min-height: 2.4rem;
}
</style>
