<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { v7 } from "uuid";
import { computed, reactive, ref } from "vue";
import { answered, client, person, type Schemas, useCommands } from "../../api/client";
import FormerDrawing from "../../drawings/FormerDrawing.vue";
import NumberField from "../../parts/NumberField.vue";
import ProblemNote from "../../parts/ProblemNote.vue";
import type { Row } from "../../parts/fields/fields";
import { t } from "../../words/said";
import { useMany, type Write } from "./many";

/** Where things dry and what they lie in: kinds with how many there are, machines, and what the air is usually like. */
const props = defineProps<{ shop: Schemas["WorkshopView"]; usual?: Schemas["UsualView"] }>();
const counts = reactive<Record<string, number | undefined>>({});
const own = ref<Row[]>([]);
const ownName = ref("");
interface Kind {
  kind: "places" | "machines";
  thing: Row;
  there: boolean;
}
const kinds = computed((): Kind[] => {
  const of = (kind: Kind["kind"], all: object[] | undefined, there: boolean) =>
    (all ?? []).map((thing) => ({ kind, thing: thing as Row, there }));
  return [
    ...of("places", props.shop.places, true),
    ...of("machines", props.shop.machines, true),
    ...of("places", props.usual?.places, false),
    ...of("machines", props.usual?.machines, false),
    ...of("places", own.value, false),
  ];
});
const count = (k: Kind) =>
  (k.thing.id as string) in counts ? counts[k.thing.id as string] : k.there ? (k.thing.slots as number) : undefined;
function more(k: Kind, by: number) {
  counts[k.thing.id as string] = Math.max(k.there ? 1 : 0, (count(k) ?? 0) + by) || undefined;
}
function another() {
  own.value.push({ id: v7(), name: ownName.value.trim(), slots: 1 });
  counts[own.value.at(-1)!.id as string] = 1;
  ownName.value = "";
}
const writes = computed(() => {
  const all: Record<string, Write[]> = { places: [], machines: [] };
  for (const k of kinds.value) {
    const slots = count(k);
    if (slots === undefined || (k.there && slots === k.thing.slots)) continue;
    all[k.kind]!.push({ ...(k.there && { was: k.thing }), is: { ...k.thing, slots } });
  }
  return all;
});
const number = computed(() => writes.value.places!.length + writes.value.machines!.length);
const take = useMany();
const taken = () => take.mutate(writes.value, { onSuccess: () => (own.value = []) });

/** What the air is usually like, until a sensor says it. */
const airs = [
  { title: t("dry"), says: t("heated or cooled: 40 %"), humidityPerMille: 400 },
  { title: t("ordinary"), says: t("50 %"), humidityPerMille: 500 },
  { title: t("damp"), says: t("by the sea, in the rain: 65 %"), humidityPerMille: 650 },
];
const send = useCommands();
const breathe = useMutation({
  mutationFn: (humidityPerMille: number) => {
    const { name, settings, climate } = props.shop;
    const body = {
      name,
      settings,
      climate: climate.map((hour) => ({ ...hour, humidityPerMille })),
      was: { name, settings, climate },
    };
    return send(body, (header) => answered(client.PUT("/api/workshop", { params: { header }, body })));
  },
});
const usually = (air: number) => props.shop.climate.every((hour) => hour.humidityPerMille === air);
</script>

<template>
  <div class="kinds">
    <div v-for="k in kinds" :key="k.thing.id as string" class="kind" :class="{ on: count(k) }">
      <FormerDrawing :name="k.thing.name as string" />
      <b>{{ k.thing.name }}</b>
      <span class="count">
        <button type="button" class="step" :aria-label="$t('fewer')" @click="more(k, -1)">−</button>
        <NumberField
          whole
          :model-value="count(k)"
          :aria-label="$t('how many: {name}', { name: k.thing.name as string })"
          :name="`count-${k.thing.name}`"
          @update:model-value="counts[k.thing.id as string] = $event"
        />
        <button type="button" class="step" :aria-label="$t('more')" @click="more(k, 1)">+</button>
      </span>
      <small>{{ k.kind === "machines" ? $t("slots in one load") : $t("cups, hooks or spaces in all") }}</small>
    </div>
    <form class="kind" @submit.prevent="another()">
      <FormerDrawing name="" />
      <label>another kind <input v-model="ownName" class="own" maxlength="80" name="own-place" /></label>
      <button class="add" :disabled="!ownName.trim()">Add it</button>
    </form>
  </div>
  <v-btn color="primary" :disabled="!number || !person || take.isPending.value" data-test="take-places" @click="taken">
    {{ $t("Take it so: {n} kind | Take these {n} kinds", number) }}
  </v-btn>
  <ProblemNote :error="take.error.value" />
  <section class="sheet air">
    <h2>The air is usually</h2>
    <button
      v-for="a in airs"
      :key="a.title"
      class="air-word"
      :class="{ on: usually(a.humidityPerMille) }"
      :aria-pressed="usually(a.humidityPerMille)"
      :disabled="!person"
      @click="breathe.mutate(a.humidityPerMille)"
    >
      <b>{{ a.title }}</b> <small>{{ a.says }}</small>
    </button>
    <p class="quiet">Drying takes longer in damp air. A sensor may say it later, hour by hour.</p>
    <ProblemNote :error="breathe.error.value" />
  </section>
</template>

<style scoped>
.kinds {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(176px, 1fr));
  gap: 10px;
  margin-bottom: 12px;
}
.kind {
  display: grid;
  gap: 4px;
  justify-items: start;
  padding: 10px 12px;
  background: var(--sheet);
  border: 1.5px dashed var(--vein);
  border-radius: 3px 16px;
  color: var(--soft);
}
.kind.on {
  border-style: solid;
  border-color: var(--leaf);
  color: var(--ink);
}
.kind input[name="own-place"] {
  width: 100%;
}
.kind b {
  min-height: 2.6em;
}
.count {
  display: flex;
  gap: 4px;
}
.count :deep(input) {
  width: 56px;
  padding-inline: 4px;
  text-align: center;
}
.step {
  min-width: 42px;
  min-height: 44px;
  font: 600 1.2rem var(--count);
  background: var(--night);
  border: 0;
  border-radius: 3px 12px;
  color: var(--ink);
  cursor: pointer;
}
.air {
  margin-top: 16px;
  padding: 12px 18px;
}
.air-word {
  min-height: 48px;
  padding: 4px 16px;
  margin-right: 8px;
  font: 500 1rem var(--count);
  color: var(--ink);
  background: var(--marble);
  border: 1.5px solid var(--vein);
  border-radius: 3px 14px;
  cursor: pointer;
}
.air-word.on {
  border-color: var(--leaf);
  background: var(--leaf-wash);
}
</style>
