<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { answered, client, Refused, type Schemas, useCommands } from "../../api/client";
import DryState from "../../drawings/DryState.vue";
import PartDrawing from "../../drawings/PartDrawing.vue";
import { lasting, useTimes } from "../../format";
import NumberField from "../../parts/NumberField.vue";
import ProblemNote from "../../parts/ProblemNote.vue";
import SideDrawer from "../../parts/SideDrawer.vue";
import { t, word } from "../../words/said";

/** All that is known of what lies in one wait, and where it may be put. */
const props = defineProps<{ lying: Schemas["LyingCard"]; room: Schemas["RoomView"] }>();
const emit = defineEmits<{ close: []; found: [what: "soft" | "firm" | "dry" | "spoilt", pieces?: number] }>();
const times = useTimes();
const send = useCommands();
const spoilt = ref(1);
const to = ref("");
const slots = ref(1);
const minutes = ref(60);

const rows = computed(() =>
  [
    { state: "firm", name: t("firm"), when: props.lying.firm },
    { state: "dry", name: t("too dry to shape"), when: props.lying.stiff },
    { state: "dry", name: t("dry"), when: props.lying.dry },
  ].filter((r) => r.when),
);
const at = (minute?: number) => (minute === undefined ? t("not in sight") : times.value.moment(minute));
const targets = computed(() => [
  ...props.room.places.map((p) => ({ key: `in/${p.id}`, name: t("{name}, as it lies", { name: p.name }) })),
  { key: "in/", name: t("The room, as it lies") },
  ...props.room.shelves
    .filter((s) => !s.machine)
    .map((s) => ({ key: `place/${s.id}`, name: t("{name} ({free} free)", { name: s.name, free: s.free }) })),
  { key: "box/", name: t("A box or a shelf of its own") },
  ...props.room.shelves.filter((s) => s.machine).map((s) => ({ key: `machine/${s.id}`, name: s.name })),
]);
const kind = computed(() => to.value.split("/")[0]);
const target = computed(() => to.value.split("/")[1]);
const offered = computed(() => props.lying.machines.find((m) => m.machine === target.value));
function choose() {
  if (offered.value) minutes.value = offered.value.minutes;
}
const put = useMutation({
  mutationFn: (surely: boolean) =>
    send([props.lying.task, to.value, slots.value, minutes.value, surely], (header) =>
      answered(
        client.POST("/api/lying/{task}/put", {
          params: { header, path: { task: props.lying.task } },
          body: {
            surely,
            ...(kind.value === "in" && target.value ? { in: target.value } : {}),
            ...(kind.value === "place" ? { place: target.value, slots: slots.value, frees: true } : {}),
            ...(kind.value === "box" ? { frees: true } : {}),
            ...(kind.value === "machine"
              ? { machine: target.value, slots: slots.value, minutes: minutes.value, frees: true }
              : {}),
          },
        }),
      ),
    ),
  onSuccess: () => emit("close"),
});
const labelAt = computed(() => `/api/lots/${props.lying.lot}/label.svg`);
const print = useMutation({
  mutationFn: () =>
    answered(client.POST("/api/lots/{lot}/label/print", { params: { path: { lot: props.lying.lot } } })),
});
const confirmable = computed(
  () => put.error.value instanceof Refused && put.error.value.fields.some((f) => f.location === "body.surely"),
);
</script>

<template>
  <SideDrawer :title="lying.name" data-test="tray" @close="emit('close')">
    <template #before><PartDrawing :form="lying.form" :colour="lying.colour" :size="30" /></template>
    <p>
      <b>{{ lying.pieces }}</b> in {{ lying.mix }}, {{ lying.wait.toLowerCase() }} since
      {{ times.moment(lying.since) }}.
    </p>
    <p v-if="lying.found" class="quiet">
      {{ lying.foundBy }} found it {{ word(lying.found.found) }} at {{ times.moment(lying.found.at) }}.
    </p>
    <table v-if="rows.length && !lying.machine" class="ledger">
      <thead>
        <tr>
          <th>state</th>
          <th>two of ten by</th>
          <th>half by</th>
          <th>eight by</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in rows" :key="r.name">
          <td><DryState :state="r.state" :size="14" /> {{ r.name }}</td>
          <td>{{ at(r.when?.early) }}</td>
          <td>
            <b>{{ at(r.when?.likely) }}</b>
          </td>
          <td>{{ at(r.when?.late) }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="lying.className" class="quiet">
      By the standard hours of {{ lying.className.toLowerCase() }}, on the drying clock of this air.
    </p>
    <p v-for="m in lying.machines" :key="m.machine">
      In the {{ room.shelves.find((s) => s.id === m.machine)?.name.toLowerCase() }}: dry by
      <b>{{ times.moment(m.dry) }}</b> ({{ lasting(m.minutes) }}).
    </p>
    <p v-if="lying.nextName">
      Then {{ lying.nextName.toLowerCase() }}, {{ lying.nextBy }}, {{ at(lying.next?.start) }}.
      <span v-if="lying.next?.closes !== undefined" class="word late"
        >By {{ at(lying.next.closes) }} at the latest.</span
      >
    </p>

    <h3>Its label</h3>
    <img class="label" :src="labelAt" alt="The label for this tray" />
    <ProblemNote :error="print.error.value" />
    <div class="line">
      <v-btn variant="tonal" data-test="print-label" :loading="print.isPending.value" @click="print.mutate()"
        >To the label printer</v-btn
      >
      <a :href="labelAt" target="_blank" class="add">on paper</a>
      <span v-if="print.data.value" class="word safe" data-test="printed">printed</span>
    </div>

    <template v-if="!lying.kept">
      <h3>Put it elsewhere</h3>
      <ProblemNote :error="put.error.value" />
      <div class="line">
        <select v-model="to" class="own" :aria-label="$t('Put it elsewhere')" data-test="put-to" @change="choose">
          <option disabled value="">where to…</option>
          <option v-for="t in targets" :key="t.key" :value="t.key">{{ t.name }}</option>
        </select>
        <label v-if="kind === 'place' || kind === 'machine'"><NumberField whole v-model="slots" /> slots</label>
        <label v-if="kind === 'machine'"><NumberField whole v-model="minutes" /> min</label>
      </div>
      <p v-if="kind === 'machine'" class="caution">
        It is hot: no foam, plastic or hot glue goes in. Follow the maker's instructions, do not leave an oven alone.
      </p>
      <v-btn v-if="to && !confirmable" data-test="put" :loading="put.isPending.value" @click="put.mutate(false)"
        >It lies there now</v-btn
      >
      <v-btn v-if="confirmable" data-test="put-surely" @click="put.mutate(true)">It does</v-btn>
    </template>

    <h3>Spoilt</h3>
    <div class="line">
      <NumberField whole v-model="spoilt" aria-label="How many are spoilt" />
      of {{ lying.pieces }}
      <v-btn variant="tonal" data-test="spoilt" @click="emit('found', 'spoilt', spoilt)">Spoilt</v-btn>
    </div>
  </SideDrawer>
</template>

<style scoped>
h3 {
  margin: 18px 0 6px;
}
.label {
  width: 100%;
  border: 1px solid var(--vein);
}
.line {
  display: flex;
  gap: 8px;
  align-items: center;
  flex-wrap: wrap;
  margin-bottom: 8px;
}
</style>
