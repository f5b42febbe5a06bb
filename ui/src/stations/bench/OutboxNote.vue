<script setup lang="ts">
import { computed } from "vue";
import { drop, record, waiting } from "../../api/outbox";
import type { Kept } from "../../api/tablet";
import { t, word } from "../../words/said";

/** What was recorded here and waits to be sent, and what was not taken because something else happened meanwhile. */
const unsent = computed(() => waiting.value.filter((k) => !k.refused).length);
const refused = computed(() => waiting.value.filter((k) => k.refused));
const did: Record<Kept["kind"], string> = {
  start: t("begun"),
  pause: t("paused"),
  count: t("a run counted"),
  finish: t("finished"),
  ask: t("help asked for"),
  remark: t("a remark"),
};
const counted = (k: Kept) =>
  ["good", "second", "mend", "broken"]
    .filter((c) => Number(k.body[c] ?? 0) > 0)
    .map((c) => `${k.body[c] as number} ${c === "mend" ? t("to mend") : word(c)}`)
    .join(", ");
const clock = (at: number) =>
  new Date(at).toLocaleTimeString([], { hour: "2-digit", minute: "2-digit", hourCycle: "h23" });
async function tell(k: Kept) {
  const says = t("Recorded at {k} without a connection and not taken: {kind}{k2}. {refused}", {
    k: clock(k.at),
    kind: did[k.kind],
    k2: counted(k) ? `, ${counted(k)}` : "",
    refused: k.refused,
  });
  await record("remark", k.task, k.of, { says: says.slice(0, 500) });
  await drop(k);
}
</script>

<template>
  <p v-if="unsent" class="unsent" role="status" data-test="unsent">
    {{
      $t(
        "{n} thing recorded here waits on this tablet and goes out as soon as the connection is back. Go on working. | {n} things recorded here wait on this tablet and go out as soon as the connection is back. Go on working.",
        unsent,
      )
    }}
  </p>
  <div v-for="k in refused" :key="k.id" class="refused" role="alert" data-test="refused">
    <p>
      <b
        >{{ k.of }}, {{ did[k.kind] }} at {{ clock(k.at) }}<template v-if="counted(k)">: {{ counted(k) }}</template></b
      >
      was recorded while there was no connection, and is not taken: {{ k.refused }}
    </p>
    <button data-test="keep-theirs" @click="drop(k)">Keep what is there</button>
    <button data-test="tell-lead" @click="tell(k)">Keep both: tell the lead</button>
  </div>
</template>

<style scoped>
.unsent {
  margin: 0 0 0.8rem;
  padding: 0.6rem 1rem;
  background: var(--dust-wash);
  border-left: 5px solid var(--dust);
  font-size: 1.1rem;
}
.refused {
  display: flex;
  flex-wrap: wrap;
  gap: 0.7rem;
  align-items: center;
  margin: 0 0 0.8rem;
  padding: 0.6rem 1rem;
  background: var(--petal-wash);
  border-left: 5px solid var(--late);
  font-size: 1.1rem;
}
.refused p {
  flex: 1 1 20rem;
  margin: 0;
}
button {
  min-height: 56px;
  padding: 0 1rem;
  font: 600 1.05rem var(--count);
  color: var(--ink);
  background: var(--field);
  border: 1.5px solid var(--ink);
  border-radius: 3px 14px;
  cursor: pointer;
}
</style>
