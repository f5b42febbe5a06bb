<script setup lang="ts">
import { useLocalStorage } from "@vueuse/core";
import { computed, ref } from "vue";
import { person, type Schemas } from "../../api/client";
import WorkGlyph from "../../drawings/WorkGlyph.vue";

/** The whole making at a glance, for whoever makes it for the first time; open until they shut it. */
const props = defineProps<{ first: Schemas["FirstTime"]; of: string; recipe: string; begun: boolean }>();
const shut = useLocalStorage<string[]>("bractum.known", []);
const key = computed(() => `${person.value} ${props.recipe}`);
/** The step whose words are open; at first that of the task at hand. */
const shown = ref(
  Math.max(
    0,
    props.first.all.findIndex((s) => s.here),
  ),
);
/** Once somebody is at it, it gives way to the step at hand. */
const open = computed(() => !props.begun && !shut.value.includes(key.value));
function toggle(event: Event) {
  const now = (event.target as HTMLDetailsElement).open;
  if (now === open.value || props.begun) return;
  shut.value = now ? shut.value.filter((k) => k !== key.value) : [...shut.value, key.value].slice(-200);
}
</script>

<template>
  <details class="sheet first" :open="open" data-test="first" @toggle="toggle">
    <summary>
      <b>New to you: {{ of }}.</b>
      {{ first.made ? $t("{made} of {of} lots made", { made: first.made, of: first.of }) : $t("The first time") }}: make
      one piece alone and slowly, and lay it beside what each step says.
    </summary>
    <ol>
      <li v-for="(s, i) in first.all" :key="i">
        <button :class="{ here: s.here, open: i === shown, wait: s.wait }" @click="shown = i">
          <WorkGlyph :glyph="s.glyph" :size="20" /> {{ s.name }}
        </button>
      </li>
    </ol>
    <div v-if="first.all[shown]" class="words" aria-live="polite">
      <img
        v-if="first.all[shown].picture"
        :src="`/api/book/pictures/${first.all[shown].picture}`"
        :alt="$t('a picture of “{name}”', { name: first.all[shown].name })"
      />
      <p v-if="first.all[shown].look"><b>Look for:</b> {{ first.all[shown].look }}</p>
      <p v-for="m in first.all[shown].mistakes" :key="m.what">
        <b>{{ m.what }}:</b> {{ m.why }}
      </p>
    </div>
    <p class="quiet">Your minutes are not taken as anybody's standard yet.</p>
  </details>
</template>

<style scoped>
.first {
  padding: 0.4rem 1.4rem;
  margin-bottom: 0.9rem;
  border-left: 5px solid var(--dust);
}
summary {
  cursor: pointer;
  min-height: 2.6rem;
  font-size: 1.1rem;
  align-content: center;
}
ol {
  list-style: none;
  padding: 0;
  margin: 0.3rem 0;
  display: flex;
  flex-wrap: wrap;
  gap: 0.35rem;
}
button {
  min-height: 48px;
  padding: 0 0.8rem;
  display: flex;
  gap: 0.4rem;
  align-items: center;
  font: 500 1rem var(--count);
  color: var(--ink);
  background: var(--marble);
  border: 1.5px solid var(--vein);
  border-radius: 3px 12px;
  cursor: pointer;
}
button.here {
  background: var(--leaf-wash);
}
button.open {
  border-color: var(--leaf);
}
button.wait {
  color: var(--soft);
}
.words p {
  margin: 0.2rem 0;
  font-size: 1.05rem;
}
img {
  max-width: 100%;
  max-height: 180px;
  border-radius: 3px 14px;
}
</style>
