<script setup lang="ts">
import { refDebounced } from "@vueuse/core";
import { computed, ref, watch } from "vue";
import { type RouteLocationRaw, useRouter } from "vue-router";
import { mayGive, useAccess } from "../api/access";
import { useFound } from "../api/queries";
import { stations } from "../stations/stations";
import { word } from "../words/said";
import { deeds, whatOf, whereIs } from "./finding";

/** Where anything is, and what can be done: by a few letters, from any station. */
const open = defineModel<boolean>({ required: true });
const router = useRouter();
const { data: access } = useAccess();
const typed = ref("");
const { data: found } = useFound(refDebounced(typed, 80));
const chosen = ref(0);

interface Way {
  kind: string;
  says: string;
  more?: string;
  to: RouteLocationRaw;
}
const ways = computed<Way[]>(() => {
  const words = typed.value.toLocaleLowerCase().split(/\s+/).filter(Boolean);
  const fits = (says: string) => words.every((w) => says.toLocaleLowerCase().includes(w));
  const all: Way[] = [
    ...stations
      .filter((s) => mayGive(access.value, s.needs) && fits(s.name))
      .map((s) => ({ kind: "station", says: s.name, more: s.question, to: s.path })),
    ...deeds
      .filter((d) => mayGive(access.value, d.needs) && fits(d.says))
      .map((d) => ({ kind: "to do", says: d.says, to: d.to })),
  ];
  if (!words.length) return all;
  const things = (found.value ?? []).flatMap((thing) => [
    { kind: thing.kind, says: thing.name, more: thing.says, to: whereIs(thing) },
    ...whatOf(thing).map((w) => ({ kind: "to do", says: w.says, to: w.to })),
  ]);
  return [...things, ...all];
});
watch([typed, found], () => (chosen.value = 0));
watch(open, (is) => is && (typed.value = ""));

function go(way?: Way) {
  if (!way) return;
  open.value = false;
  void router.push(way.to);
}
function step(by: number) {
  chosen.value = (chosen.value + by + ways.value.length) % Math.max(1, ways.value.length);
  document.getElementById(`way-${chosen.value}`)?.scrollIntoView({ block: "nearest" });
}
</script>

<template>
  <v-dialog v-model="open" max-width="640" :aria-label="$t('Find anything')" scrollable>
    <div class="sheet find" data-test="find">
      <input
        v-model="typed"
        name="find"
        type="search"
        autofocus
        role="combobox"
        aria-expanded="true"
        aria-controls="ways"
        :aria-activedescendant="ways.length ? `way-${chosen}` : undefined"
        :aria-label="$t('Find anything')"
        :placeholder="$t('Anything by a few letters, or what to do')"
        @keydown.down.prevent="step(1)"
        @keydown.up.prevent="step(-1)"
        @keydown.enter.prevent="go(ways[chosen])"
      />
      <ul id="ways" role="listbox" :aria-label="$t('What was found')">
        <li
          v-for="(w, i) in ways"
          :id="`way-${i}`"
          :key="i"
          role="option"
          :aria-selected="i === chosen"
          :data-test="`way-${w.says}`"
          @click="go(w)"
          @mousemove="chosen = i"
        >
          <span class="kind">{{ word(w.kind) }}</span>
          <b>{{ w.says }}</b> <span class="quiet">{{ w.more }}</span>
        </li>
      </ul>
      <p v-if="typed.trim() && found && !ways.length" class="quiet none">
        Nothing has these letters in its name. Lots are found by the code on their label.
      </p>
    </div>
  </v-dialog>
</template>

<style scoped>
.find {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  max-height: 70vh;
}
input {
  font: 500 1.2667rem var(--name);
  color: var(--ink);
  padding: 16px 22px;
  border: 0;
  border-bottom: 1px solid var(--vein);
  background: none;
  outline-offset: -4px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 6px 0;
  overflow-y: auto;
}
li {
  display: grid;
  grid-template-columns: 84px auto 1fr;
  gap: 12px;
  align-items: baseline;
  padding: 7px 22px;
  cursor: pointer;
}
li[aria-selected="true"] {
  background: var(--leaf-wash);
}
.kind {
  font-style: italic;
  color: var(--soft);
  font-size: 0.8667rem;
}
.none {
  padding: 0 22px 16px;
}
</style>
