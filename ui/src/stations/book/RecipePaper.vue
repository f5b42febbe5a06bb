<script setup lang="ts">
import { useQuery } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { useRoute } from "vue-router";
import { answered, client } from "../../api/client";
import PieceToScale from "../../drawings/PieceToScale.vue";
import ProblemNote from "../../parts/ProblemNote.vue";
import { useTimes } from "../../format";
import { afterWords, shapedBy } from "../../words/card";
import PaperFoot from "../bench/PaperFoot.vue";
import StepDetail from "../bench/StepDetail.vue";

/** A recipe's whole making in bench cards, for as many as are wanted: to print and to lay on the bench. */
const route = useRoute();
const page = computed(() => String(route.params.page));
const many = ref(1);
const times = useTimes();
const { data: making, error } = useQuery({
  queryKey: ["page", "cards", page, many],
  queryFn: () =>
    answered(
      client.GET("/api/book/pages/{page}/cards", {
        params: { path: { page: page.value }, query: { quantity: many.value } },
      }),
    ),
});
const print = () => window.print();
</script>

<template>
  <div class="station paper">
    <ProblemNote :error="error" />
    <template v-if="making">
      <h1>{{ making.quantity }} {{ making.name }}</h1>
      <p class="no-print ways">
        <label>How many <input v-model.number="many" type="number" min="1" max="5000" name="many" /></label>
        <button class="bare add" data-test="print-recipe" @click="print">Print it</button>
        <RouterLink class="add" :to="`/book/pages/${page}`">To the recipe</RouterLink>
      </p>
      <section v-for="(c, i) in making.cards" :key="i" class="sheet part" data-test="making">
        <PieceToScale
          v-if="shapedBy(c.steps)"
          class="drawn"
          :form="making.form"
          :colour="making.colour"
          v-bind="shapedBy(c.steps)!"
          :size="120"
        />
        <template v-for="s in c.steps" :key="s.key">
          <h2>{{ s.pieces }} {{ s.name }}</h2>
          <StepDetail :step="s" />
          <p v-for="k in s.cautions" :key="k" class="caution">{{ k }}</p>
        </template>
        <p v-for="a in c.then.filter((x) => x.wait)" :key="a.name">then {{ afterWords(a, times.moment) }}</p>
      </section>
      <PaperFoot :path="`/book/pages/${page}/paper`" />
    </template>
  </div>
</template>

<style scoped>
.part {
  padding: 0.7rem 1.2rem;
  margin-bottom: 0.7rem;
  break-inside: avoid;
}
.drawn {
  float: right;
}
.caution {
  border-left: 4px solid var(--dust);
  padding: 2px 10px;
  margin: 0.3rem 0;
}
.ways {
  display: flex;
  gap: 1.4rem;
  align-items: center;
}
.ways input {
  width: 5rem;
  font-size: 1.1rem;
}
</style>
