<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { useDebounceFn } from "@vueuse/core";
import { computed, ref, watch } from "vue";
import { answered, client, person, Refused, type Schemas, useCommands } from "../../api/client";
import FieldGrid from "../../parts/fields/FieldGrid.vue";
import { at, type Row } from "../../parts/fields/fields";
import RowsTable from "../../parts/fields/RowsTable.vue";
import ProblemNote from "../../parts/ProblemNote.vue";
import DoesNote from "./DoesNote.vue";
import DeviceList from "./DeviceList.vue";
import { air, type Part, parts, type Sheet } from "./sheets";
import { t } from "../../words/said";

/** The studio itself, one part of it after the other: how it says figures, what it plans and counts by, its air. */
const props = defineProps<{ shop: Schemas["WorkshopView"]; sheet: Sheet; part: Part }>();
const emit = defineEmits<{ close: [] }>();
const send = useCommands();
type Frame = Pick<Schemas["WorkshopView"], "name" | "settings" | "climate">;
const copy = <T,>(of: T) => JSON.parse(JSON.stringify(of)) as T;
const seen = computed<Frame>(() => ({
  name: props.shop.name,
  settings: props.shop.settings,
  climate: props.shop.climate,
}));
const draft = ref<Frame>(copy(seen.value));
const shown = props.shop.zone;
const zone = ref(shown);
const zones = Intl.supportedValuesOf("timeZone");
const same = computed(
  () => JSON.stringify(draft.value) === JSON.stringify(seen.value) && zone.value === props.shop.zone,
);
const write = useMutation({
  mutationFn: () => {
    const body = { ...draft.value, zone: zone.value.trim(), was: { ...seen.value, zone: shown } };
    return send(body, (header) => answered(client.PUT("/api/workshop", { params: { header }, body })));
  },
});
/** What it would do to the plan, said before it counts. */
const effect = ref<Schemas["Effect"]>();
const look = useMutation({
  mutationFn: () =>
    answered(client.POST("/api/workshop/preview", { body: { ...draft.value, zone: zone.value.trim() } })),
  onSuccess: (answer) => (effect.value = answer),
});
const lookSoon = useDebounceFn(() => same.value || look.mutate(), 500);
watch(
  [draft, zone],
  () => {
    effect.value = undefined;
    void lookSoon();
  },
  { deep: true },
);
const error = computed(() => write.error.value ?? look.error.value);
const flaw = (key: string) => (error.value instanceof Refused ? error.value.at(key) : undefined);
const usual = air("climate", t("The room's usual air"));
const of: Record<string, RegExp> = {
  manner: /^(manner\.|seat|allergens)/,
  costs: /^(costing\.|moneyStep)/,
  paste: /^(loss|sheet|shrink|density|scaleStep|remnant|keepOffcut|measures)/,
  devices: /^devices\./,
};
const partOf = (key: string) => Object.keys(of).find((part) => of[part]!.test(key)) ?? "plans";
const here = <T extends { key: string }>(all: T[]) => all.filter((one) => partOf(one.key) === props.part);
</script>

<template>
  <form class="sheet frame" data-test="frame" @submit.prevent="write.mutate()">
    <h2>{{ parts[part] }}</h2>
    <p v-if="part === 'manner'">
      <label>called <input v-model="draft.name" class="own" maxlength="80" data-test="frame-name" /></label>
      <label> in the time zone <input v-model="zone" class="own" list="zones" data-test="frame-zone" /></label>
      <datalist id="zones"><option v-for="z in zones" :key="z" :value="z" /></datalist>
    </p>
    <FieldGrid
      name="settings"
      :row="draft.settings as unknown as Row"
      :columns="here(sheet.columns)"
      :flaws="(key) => flaw(`settings.${key}`)"
      @row="draft.settings = $event as never"
    />
    <p v-if="part === 'manner'" class="quiet">
      Another language is a file in the studio's folder, <code>words</code>:
      <a href="/words.json" download="words.json">all the words, in English</a>.
    </p>
    <RowsTable
      v-for="l in here(sheet.lines)"
      :key="l.key"
      :name="l.key"
      :title="l.title"
      :rows="(at(draft.settings as unknown as Row, l.key) as Row[]) ?? []"
      :columns="l.columns"
      :more="l.more"
      :fresh="l.fresh"
      :flaws="(i, key) => flaw(`settings.${l.key}[${i}].${key}`)"
      @rows="draft.settings = { ...draft.settings, [l.key]: $event } as never"
    />
    <RowsTable
      v-if="part === 'air'"
      name="climate"
      :rows="draft.climate as unknown as Row[]"
      :columns="usual.columns"
      :label="usual.label"
      fixed
      @rows="draft.climate = $event as never"
    />
    <DeviceList v-if="part === 'devices'" />
    <ProblemNote :error="error" />
    <DoesNote v-if="!same" :effect="effect" :pending="look.isPending.value" />
    <footer>
      <span class="grow" />
      <v-btn variant="text" @click="emit('close')">Leave it</v-btn>
      <v-btn type="submit" color="primary" data-test="frame-save" :disabled="same || !person || write.isPending.value">
        Change it so
      </v-btn>
    </footer>
  </form>
</template>

<style scoped>
.frame {
  padding: 16px 20px;
}
footer {
  display: flex;
  margin-top: 12px;
}
</style>
