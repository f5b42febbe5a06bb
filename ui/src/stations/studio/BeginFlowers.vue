<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { computed, reactive, ref } from "vue";
import { answered, client, person, type Schemas, useCommands } from "../../api/client";
import { useBook } from "../../api/queries";
import ProblemNote from "../../parts/ProblemNote.vue";

/** The first flowers: from the book that ships with the program, from a file, or begun from their method. */
defineProps<{ usual?: Schemas["UsualView"] }>();
const { data: book } = useBook();
const has = computed(() => (book.value?.pages ?? []).filter((p) => p.kind === "flower" || p.kind === "spray"));
const chosen = reactive(new Set<string>());
const toggle = (id: string) => chosen.delete(id) || chosen.add(id);
const send = useCommands();
const at = ref("");
const take = useMutation({
  mutationFn: async (flowers: Schemas["Named"][]) => {
    for (const f of flowers) {
      at.value = f.name;
      const body = { file: await (await fetch(`/api/workshop/usual/flowers/${f.id}`)).text(), choices: {} };
      await send([f.id, body], (header) => answered(client.POST("/api/book/import", { params: { header }, body })));
      chosen.delete(f.id);
    }
  },
  onSettled: () => (at.value = ""),
});
</script>

<template>
  <p v-if="has.length" data-test="has-flowers"><b>In the book:</b> {{ has.map((f) => f.name).join(", ") }}.</p>
  <section v-if="usual?.flowers.length" class="sheet part">
    <h2>From the book that comes with Bractum</h2>
    <button
      v-for="f in usual.flowers"
      :key="f.id"
      class="toggle"
      :class="{ on: chosen.has(f.id) }"
      :aria-pressed="chosen.has(f.id)"
      :data-test="`flower-${f.name}`"
      @click="toggle(f.id)"
    >
      {{ f.name }}
    </button>
    <p>
      <v-btn
        color="primary"
        :disabled="!chosen.size || !person || take.isPending.value"
        data-test="take-flowers"
        @click="take.mutate(usual.flowers.filter((f) => chosen.has(f.id)))"
      >
        {{ at ? $t("{name} comes in…", { name: at }) : $t("Take {n} flower | Take {n} flowers", chosen.size) }}
      </v-btn>
      <span class="quiet"> with the formers, tools and materials that they ask for; all can be changed.</span>
    </p>
    <ProblemNote :error="take.error.value" />
  </section>
  <section class="sheet part">
    <h2>Flowers of your own</h2>
    <RouterLink class="toggle" to="/book?new" data-test="own-flower">Begin one from its method</RouterLink>
    <RouterLink class="toggle" to="/book">From a file of recipes, in the flower book</RouterLink>
  </section>
</template>

<style scoped>
.part {
  padding: 12px 18px;
  margin-bottom: 12px;
}
</style>
