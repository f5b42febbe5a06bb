<script setup lang="ts">
import { computed, onUnmounted, ref, watch } from "vue";
import type { Schemas } from "../../api/client";
import { lasting } from "../../format";
import { t } from "../../words/said";

/**
 * What rings at this bench, across the whole width: a short rest that is over, and what stiffens soon. It
 * sounds until it is put off or taken up.
 */
const props = defineProps<{ bench: Schemas["BenchView"] }>();
const emit = defineEmits<{ take: [string] }>();

/** How long before pieces are too stiff they ring, and for how long a ring is put off. */
const before = 5;
const putOff = 3;
const quietUntil = ref<Record<string, number>>({});
const rings = computed(() => {
  const b = props.bench;
  const all = b.rests
    .filter((r) => r.ends <= b.now)
    .map((r) => ({
      key: r.task,
      take: b.task?.state === "started" ? "" : r.then,
      says: t("{of}: “{name}” is over{ends}. Now: {thenName}.", {
        of: r.of,
        name: r.name,
        ends: r.ends < b.now ? t(" for {ends}", { ends: lasting(b.now - r.ends) }) : "",
        thenName: r.thenName,
      }),
    }));
  const s = b.stiffens;
  if (s && !s.own && s.by - b.now <= before)
    all.unshift({
      key: `stiff ${b.task?.id} ${s.by}`,
      take: "",
      says:
        s.by > b.now
          ? t("{now} until the first is too stiff for {name}.", { now: lasting(s.by - b.now), name: s.name })
          : t("Touch them: {name} was to begin {by} ago.", { name: s.name, by: lasting(b.now - s.by) }),
    });
  return all.filter((r) => (quietUntil.value[r.key] ?? 0) <= b.now);
});

let sound: AudioContext | undefined;
let again: number | undefined;
/** Three soft notes; where the browser allows none before the first touch, the sign stands alone. */
function chime() {
  try {
    sound ??= new AudioContext();
    for (const [i, pitch] of [659, 784, 988].entries()) {
      const tone = sound.createOscillator();
      const loud = sound.createGain();
      const at = sound.currentTime + i * 0.22;
      tone.frequency.value = pitch;
      loud.gain.setValueAtTime(0.0001, at);
      loud.gain.exponentialRampToValueAtTime(0.25, at + 0.03);
      loud.gain.exponentialRampToValueAtTime(0.0001, at + 0.5);
      tone.connect(loud).connect(sound.destination);
      tone.start(at);
      tone.stop(at + 0.55);
    }
  } catch {
    sound = undefined;
  }
}
watch(
  () => rings.value.map((r) => r.key).join(),
  (now) => {
    clearInterval(again);
    if (!now) return;
    chime();
    again = window.setInterval(chime, 20_000);
  },
  { immediate: true },
);
onUnmounted(() => clearInterval(again));
</script>

<template>
  <div v-if="rings.length" class="signs" role="alert" data-test="ringing">
    <div v-for="r in rings" :key="r.key" class="sign">
      <b>{{ r.says }}</b>
      <button v-if="r.take" data-test="ring-take" @click="emit('take', r.take)">Take it up</button>
      <button data-test="put-off" @click="quietUntil = { ...quietUntil, [r.key]: bench.now + putOff }">
        Again in {{ putOff }} min
      </button>
    </div>
  </div>
</template>

<style scoped>
.signs {
  position: sticky;
  top: 0;
  z-index: 5;
  margin: 0 -26px 0.9rem;
}
.sign {
  display: flex;
  flex-wrap: wrap;
  gap: 0.8rem;
  align-items: center;
  padding: 0.7rem 26px;
  background: var(--ink);
  color: var(--on-ink);
  font-size: 1.3rem;
}
.sign b {
  flex: 1 1 16rem;
}
button {
  min-height: 56px;
  padding: 0 1.4rem;
  font: 650 1.15rem var(--count);
  color: var(--ink);
  background: var(--field);
  border: 0;
  border-radius: 3px 14px;
  cursor: pointer;
}
</style>
