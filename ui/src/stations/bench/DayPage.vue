<script setup lang="ts">
import { person } from "../../api/client";
import { useDay } from "../../api/queries";
import BenchDay from "./BenchDay.vue";
import PaperFoot from "./PaperFoot.vue";

/** The whole day of who sits here, to look at or to print. */
const { data: day } = useDay(person);
const print = () => window.print();
</script>

<template>
  <div class="station paper">
    <h1>{{ day?.name }}, today</h1>
    <p v-if="!person">Say who is here first.</p>
    <BenchDay v-if="day" :day="day" />
    <div class="no-print ways">
      <button class="bare add" data-test="print-day" @click="print">Print it</button>
      <RouterLink class="add" to="/bench">To the bench</RouterLink>
    </div>
    <PaperFoot path="/bench/day" />
  </div>
</template>

<style scoped>
.ways {
  display: flex;
  gap: 1.6rem;
  font-size: 1.1rem;
}
.ways > * {
  min-height: 56px;
  align-content: center;
}
</style>
