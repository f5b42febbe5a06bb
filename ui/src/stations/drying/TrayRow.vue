<script setup lang="ts">
import { computed } from "vue";
import type { Schemas } from "../../api/client";
import DryingBar from "../../drawings/DryingBar.vue";
import DryState from "../../drawings/DryState.vue";
import PartDrawing from "../../drawings/PartDrawing.vue";
import { useTimes } from "../../format";
import { stateWord } from "./words";
import { t, word } from "../../words/said";

/** What lies in one wait, on its shelf: how far it is, when it is further, and the touch that says so. */
const props = defineProps<{ lying: Schemas["LyingCard"]; now: number; busy: boolean }>();
const emit = defineEmits<{ open: []; found: [what: "soft" | "firm" | "dry"] }>();
const times = useTimes();
const soon = (minute?: number) =>
  minute === undefined
    ? t("not before the air is drier")
    : minute <= props.now
      ? t("by now")
      : minute < props.now + 1200
        ? times.value.clock(minute)
        : times.value.moment(minute);
const says = computed(() => {
  const l = props.lying;
  if (l.machine) return t("out at {over}", { over: soon(l.over) });
  if (l.kept) return l.next?.closes === undefined ? t("between two steps") : t("cover it");
  if (!l.class) return t("until {over}", { over: soon(l.over) });
  if (l.state === "dry") return l.found?.found === "dry" ? t("found by touch") : t("by the clock: touch it");
  if (l.state === "firm") return t("dry about {likely}", { likely: soon(l.dry?.likely) });
  return t("firm about {likely}, dry {likely2}", { likely: soon(l.firm?.likely), likely2: soon(l.dry?.likely) });
});
</script>

<template>
  <article class="tray" :class="lying.state" :data-test="`lying-${lying.name}`">
    <button class="bare what" @click="emit('open')">
      <PartDrawing :form="lying.form" :colour="lying.colour" :size="46" />
      <span>
        <b>{{ lying.name }}</b> <span class="figure">{{ lying.pieces }}</span>
        <span v-if="lying.batch && lying.batch.of > 1" class="quiet beside" data-test="batch"
          >batch {{ lying.batch.number }} of {{ lying.batch.of
          }}<template v-if="lying.batch.root !== lying.lot">, for {{ lying.batch.name }}</template></span
        >
        <span class="now"><DryState :state="lying.state" /> {{ stateWord(lying) }} · {{ says }}</span>
        <span class="quiet">
          {{ lying.wait.toLowerCase() }}, since {{ times.moment(lying.since)
          }}<template v-if="lying.found">, touched {{ times.moment(lying.found.at) }} by {{ lying.foundBy }}</template>
          <template v-if="lying.nextName"> · then {{ lying.nextName.toLowerCase() }}, {{ lying.nextBy }}</template>
        </span>
        <span v-if="lying.next?.closes !== undefined" class="word late">take up by {{ soon(lying.next.closes) }}</span>
      </span>
    </button>
    <DryingBar :lying="lying" :now="now" />
    <div
      v-if="!lying.kept"
      class="touch"
      role="group"
      :aria-label="$t('What is {name} by touch?', { name: lying.name })"
    >
      <button
        v-for="f in ['soft', 'firm', 'dry'] as const"
        :key="f"
        :class="{ is: lying.found?.found === f }"
        :disabled="busy"
        :data-test="`found-${f}`"
        @click="emit('found', f)"
      >
        <DryState :state="f" :size="20" />{{ word(f) }}
      </button>
    </div>
  </article>
</template>

<style scoped>
.tray {
  display: grid;
  grid-template-columns: minmax(220px, 1fr) 200px 186px;
  gap: 14px;
  align-items: center;
  padding: 8px 12px;
  background: var(--sheet);
  border: 1px solid var(--vein);
  border-radius: 3px 14px 3px 14px;
}
.what {
  display: flex;
  gap: 10px;
  align-items: center;
}
.what > svg {
  flex: none;
}
.what > span > span {
  display: block;
}
.what .beside {
  display: inline;
}
.what .figure {
  display: inline;
  font-size: 1.2rem;
  margin-left: 6px;
}
.what .now {
  font-weight: 600;
  margin: 2px 0 1px;
}
.touch {
  display: flex;
  gap: 5px;
}
.touch button {
  flex: 1;
  min-height: 56px;
  min-width: 56px;
  display: flex;
  flex-direction: column;
  align-items: center;
  justify-content: center;
  gap: 2px;
  font: inherit;
  font-weight: 600;
  font-size: 0.8667rem;
  color: inherit;
  background: var(--marble);
  border: 1px solid var(--vein);
  border-radius: 2px 11px 2px 11px;
  cursor: pointer;
}
.touch button.is {
  border-color: var(--ink);
  box-shadow: inset 0 -3px 0 var(--ink);
}
@media (max-width: 1000px) {
  .tray {
    grid-template-columns: 1fr;
  }
}
</style>
