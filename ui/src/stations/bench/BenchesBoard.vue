<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { ref } from "vue";
import { useSeat } from "../../api/access";
import { answered, client, type Schemas, useCommands } from "../../api/client";
import { useBenches, useStudio } from "../../api/queries";
import WorkGlyph from "../../drawings/WorkGlyph.vue";
import { lasting, useTimes } from "../../format";
import ProblemNote from "../../parts/ProblemNote.vue";
import BenchLeft from "./BenchLeft.vue";
import HandOn from "./HandOn.vue";

/** Who does what now: every bench, how far along, who asks for help; a task is taken off somebody in two touches. */
const emit = defineEmits<{ sit: [] }>();
const { data: benches, error } = useBenches();
const { data: studio } = useStudio();
const times = useTimes();
const send = useCommands();
type Bench = Schemas["BenchState"];

/** Whose whole day is shown. */
const opened = ref("");
const helped = useMutation({
  mutationFn: (task: string) =>
    send(["ask", task, ""], (header) =>
      answered(client.POST("/api/tasks/{task}/ask", { params: { path: { task }, header }, body: { says: "" } })),
    ),
});
/** Who asks for help first, then who is late, then who is there. */
const order = (b: Bench) => (b.asks ? 0 : b.overMinutes || b.lateMinutes ? 1 : b.there ? 2 : 3);
const sorted = () => [...(benches.value ?? [])].sort((a, b) => order(a) - order(b));
const goes = (b: Bench) => b.task?.state === "started";
const since = (b: Bench) => (studio.value?.now ?? 0) - (b.task?.start ?? 0);
const { sit: sitDown } = useSeat();
function sit(id: string) {
  void sitDown(id).catch(() => {}); // a tablet that has no connection tells by itself
  emit("sit");
}
</script>

<template>
  <ProblemNote :error="error ?? helped.error.value" />
  <ul class="benches" data-test="benches">
    <li v-for="b in sorted()" :key="b.person" class="sheet" :class="{ asks: b.asks, away: !b.there }">
      <button class="name" :data-test="`bench-${b.name}`" @click="sit(b.person)">{{ b.name }}</button>
      <p v-if="b.asks" class="help" data-test="asks">
        Asks for help: “{{ b.asks }}”
        <button class="bare add" @click="helped.mutate(b.task!.id)">It is settled</button>
      </p>
      <template v-if="b.task && goes(b)">
        <p class="at">
          <WorkGlyph :glyph="b.task.glyph" /> <b>{{ b.task.name }}</b>, {{ b.task.of }}
          <span class="quiet">{{
            b.task.making === "mix"
              ? ""
              : $t("{counted} of {quantity} counted", {
                  counted: b.task.counted,
                  quantity: b.task.counted + b.task.quantity,
                })
          }}</span>
        </p>
        <div
          class="bar"
          role="img"
          :aria-label="
            $t('{b} of about {expectedMinutes}', {
              b: lasting(since(b)),
              expectedMinutes: lasting(b.expectedMinutes ?? 0),
            })
          "
        >
          <i :style="{ width: `${Math.min(100, (100 * since(b)) / Math.max(1, b.expectedMinutes ?? 1))}%` }" />
        </div>
        <p class="word" :class="b.overMinutes ? 'tight' : 'safe'">
          {{
            b.overMinutes
              ? $t("{overMinutes} longer than usual", { overMinutes: lasting(b.overMinutes) })
              : $t("{b} of about {expectedMinutes}", {
                  b: lasting(since(b)),
                  expectedMinutes: lasting(b.expectedMinutes ?? 0),
                })
          }}
        </p>
      </template>
      <p v-else-if="b.task && b.there" class="at">
        <template v-if="b.lateMinutes">
          <span class="word late">{{ lasting(b.lateMinutes) }} late to begin</span> {{ b.task.name }}, {{ b.task.of }}
        </template>
        <template v-else>Next {{ times.clock(b.task.start) }}: {{ b.task.name }}, {{ b.task.of }}</template>
      </p>
      <p v-else-if="!b.there" class="quiet">
        {{ b.from === undefined ? $t("not here") : $t("comes {from}", { from: times.moment(b.from) }) }}
      </p>
      <p v-else class="quiet">nothing planned</p>
      <HandOn v-if="b.task" :task="b.task" :of="b.person" :test="`hand-${b.name}`" />
      <button
        v-if="b.tasks"
        class="bare left"
        :aria-expanded="opened === b.person"
        :data-test="`left-${b.name}`"
        @click="opened = opened === b.person ? '' : b.person"
      >
        {{ $t("{n} task | {n} tasks", b.tasks) }} left today
      </button>
      <BenchLeft v-if="opened === b.person" :person="b.person" />
    </li>
  </ul>
</template>

<style scoped>
.benches {
  list-style: none;
  padding: 0;
  margin: 1rem 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(270px, 1fr));
  gap: 0.9rem;
}
li {
  padding: 0.9rem 1.2rem;
}
li.asks {
  border-left: 6px solid var(--dust);
}
.name {
  font: 560 1.6rem var(--name);
  color: var(--ink);
  background: var(--leaf-wash);
  border: 0;
  border-radius: 3px 14px;
  padding: 0 0.9rem;
  margin-bottom: 0.4rem;
  min-height: 64px;
  width: 100%;
  text-align: left;
  cursor: pointer;
}
p {
  margin: 0.25rem 0;
}
.at svg {
  vertical-align: -4px;
}
.help {
  background: var(--dust-wash);
  padding: 0.4rem 0.7rem;
  font-weight: 600;
}
.bar {
  height: 8px;
  background: var(--vein);
  border-radius: 4px;
  margin: 0.4rem 0;
}
.bar i {
  display: block;
  height: 100%;
  border-radius: 4px;
  background: var(--leaf);
}
.left {
  min-height: 48px;
  color: var(--soft);
}
</style>
