<script setup lang="ts">
import { computed, ref } from "vue";
import { useMutation } from "@tanstack/vue-query";
import { answered, client, command, person, type Schemas } from "../api/client";
import { useSearch } from "../api/queries";
import { lasting } from "../format";
import ProblemNote from "./ProblemNote.vue";
import { t } from "../words/said";

/** Looks for a better plan in the background; says how far it is, and can be stopped. */
const { data: search } = useSearch();
const open = ref(false);
const seconds = ref(20);
const anew = ref(false);

const begin = useMutation({
  mutationFn: () =>
    answered(
      client.POST("/api/search", {
        params: { header: command() },
        body: { seconds: seconds.value, anew: anew.value },
      }),
    ),
  onSuccess: () => (open.value = false),
});
const stop = useMutation({
  mutationFn: () => answered(client.POST("/api/search/stop", { params: { header: command() } })),
});

function said(f: Schemas["Figures"]): string {
  return f.weightedLateness > 0
    ? t("worst {worstSlack} late", { worstSlack: lasting(f.worstSlack) })
    : t("least slack {worstSlack}", { worstSlack: lasting(f.worstSlack) });
}
const gained = computed(() => {
  const s = search.value;
  if (!s) return "";
  const { was, best } = s;
  if (was.weightedLateness > best.weightedLateness)
    return t("{weightedLateness} % less late, {best}", {
      weightedLateness: Math.round((100 * (was.weightedLateness - best.weightedLateness)) / was.weightedLateness),
      best: said(best),
    });
  if (best.worstSlack > was.worstSlack) return said(best);
  return t("nothing better yet");
});
const proven = computed(() => {
  const s = search.value;
  if (!s?.was.bound || s.best.weightedLateness <= 0) return "";
  return t("{weightedLateness} % of the lateness is proven to be unavoidable", {
    weightedLateness: Math.round((100 * s.was.bound) / s.best.weightedLateness),
  });
});
const ended: Record<string, string> = {
  found: t("A better plan was found"),
  "nothing better": t("Nothing better was found"),
  failed: "The search failed; the plan is as it was",
};
</script>

<template>
  <div class="search" data-test="search">
    <template v-if="search?.running">
      <progress :value="search.elapsedSeconds" :max="search.seconds" aria-label="Looking for a better plan" />
      <span aria-live="polite" :title="proven">{{ search.steps }} tried: {{ gained }}</span>
      <button class="bare add" data-test="stop-search" @click="stop.mutate()">Stop</button>
    </template>
    <template v-else>
      <span v-if="search?.ended" class="quiet">{{ ended[search.ended] }} </span>
      <v-menu v-model="open" :close-on-content-click="false">
        <template #activator="{ props: menu }">
          <button class="bare add" data-test="look-for" :disabled="!person" v-bind="menu">
            Look for a better plan
          </button>
        </template>
        <form class="sheet ask" @submit.prevent="begin.mutate()">
          <p>How long?</p>
          <label v-for="s in [5, 20, 60, 600]" :key="s">
            <input v-model="seconds" type="radio" name="seconds" :value="s" />
            {{ s < 60 ? $t("{s} seconds", { s }) : s === 60 ? $t("a minute") : $t("ten minutes") }}
          </label>
          <label>
            <input v-model="anew" type="checkbox" name="anew" />
            <span
              >anew: also what people were told may move<br /><span class="quiet"
                >else that stays as far as it can</span
              ></span
            >
          </label>
          <ProblemNote :error="begin.error.value" />
          <v-btn color="primary" type="submit" data-test="begin-search">Look</v-btn>
        </form>
      </v-menu>
    </template>
  </div>
</template>

<style scoped>
.search {
  display: flex;
  align-items: center;
  gap: 10px;
  font-size: 0.9333rem;
}
progress {
  width: 130px;
  height: 9px;
  accent-color: var(--petal);
}
.ask {
  padding: 14px 18px;
  display: grid;
  gap: 6px;
  box-shadow: 0 18px 60px var(--shadow);
}
.ask p {
  margin: 0;
  font-weight: 650;
}
label {
  display: flex;
  gap: 8px;
  align-items: baseline;
}
input {
  accent-color: var(--petal);
}
</style>
