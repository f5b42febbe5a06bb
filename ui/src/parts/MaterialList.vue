<script setup lang="ts">
import type { Schemas } from "../api/client";
import { stocked } from "../format";

/** What is needed of bought materials, what is there, and what is short. */
defineProps<{ title: string; lines: Schemas["MaterialLine"][] }>();
</script>

<template>
  <section v-if="lines.length" class="sheet materials">
    <h2>{{ title }}</h2>
    <table class="ledger">
      <thead>
        <tr>
          <th>material</th>
          <th class="n">needed</th>
          <th class="n">on hand</th>
          <td />
        </tr>
      </thead>
      <tbody>
        <tr v-for="l in lines" :key="l.material">
          <td>{{ l.name }}</td>
          <td class="n">
            <b>{{ stocked(l.needed, l.unit) }}</b>
          </td>
          <td class="n">{{ stocked(l.onHand, l.unit) }}</td>
          <td>
            <span v-if="l.onHand < l.needed" class="word late">{{ stocked(l.needed - l.onHand, l.unit) }} short</span>
          </td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
.materials {
  padding: 16px 20px;
  max-width: 640px;
  margin-top: 14px;
}
</style>
