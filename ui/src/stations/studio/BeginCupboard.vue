<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { v7 } from "uuid";
import { computed, reactive, ref } from "vue";
import { answered, client, person, type Schemas, useCommands } from "../../api/client";
import { given, spokenScale, spokenUnit, stocked } from "../../format";
import NumberField from "../../parts/NumberField.vue";
import ProblemNote from "../../parts/ProblemNote.vue";
import type { Row } from "../../parts/fields/fields";
import { t } from "../../words/said";
import { massUnit } from "../../manner";
import { useMany } from "./many";
import { fresh } from "./sheets";

/** What is in the cupboard: taken from a list, and what is there of it now; roughly is enough. */
const props = defineProps<{ shop: Schemas["WorkshopView"]; usual?: Schemas["UsualView"] }>();
type Material = Schemas["Material"];
const there = reactive<Record<string, number | undefined>>({});
/** What is on no list. */
const own = ref<Material[]>([]);
const ownName = ref("");
const ownUnit = ref<Material["unit"]>("pieces");
function another() {
  own.value.push({ ...fresh.materials!(), id: v7(), name: ownName.value.trim(), unit: ownUnit.value } as Material);
  ownName.value = "";
}
const all = computed(() => [
  ...props.shop.materials,
  ...(props.usual?.materials ?? []),
  ...own.value.filter((m) => !props.shop.materials.some((has) => has.id === m.id)),
]);
const groups = computed(() =>
  [
    { title: t("Wires"), is: (m: Material) => !!m.wire },
    { title: t("By weight"), is: (m: Material) => !m.wire && m.unit === "mg" },
    { title: t("By piece and length"), is: (m: Material) => !m.wire && m.unit !== "mg" },
  ]
    .map((g) => ({ title: g.title, all: all.value.filter(g.is) }))
    .filter((g) => g.all.length),
);
const isThere = (m: Material) => props.shop.materials.some((has) => has.id === m.id);
const counted = computed(() => all.value.filter((m) => there[m.id] !== undefined && !Number.isNaN(there[m.id])));
function aPack(m: Material) {
  there[m.id] = Number((m.pack! / spokenScale(m.unit)).toFixed(3));
}
const send = useCommands();
const many = useMany();
const took = ref(0);
const take = useMutation({
  mutationFn: async () => {
    const fresh = counted.value.filter((m) => !isThere(m));
    await many.mutateAsync({ materials: fresh.map((m) => ({ is: m as unknown as Row })) });
    const counts = counted.value.map((m) => ({
      id: m.id,
      amount: given(there[m.id]!, m.unit),
      seen: isThere(m) ? m.onHand : 0,
    }));
    await send(counts, (header) =>
      answered(client.POST("/api/stores/count", { params: { header }, body: { counts } })),
    );
    return counts.length;
  },
  onSuccess: (n) => {
    took.value = n;
    for (const id of Object.keys(there)) delete there[id];
  },
});
</script>

<template>
  <section v-for="g in groups" :key="g.title" class="sheet group">
    <h2>{{ g.title }}</h2>
    <div class="lines">
      <div v-for="m in g.all" :key="m.id" class="line" :class="{ there: isThere(m) && m.onHand }">
        <b>{{ m.name }}</b>
        <small v-if="isThere(m) && m.onHand">{{ stocked(m.onHand, m.unit) }} are there</small>
        <small v-else-if="m.pack">in packs of {{ stocked(m.pack, m.unit) }}</small>
        <span class="count">
          <NumberField
            :model-value="there[m.id]"
            :aria-label="$t('there is of {name}', { name: m.name })"
            :name="`there-${m.name}`"
            @update:model-value="there[m.id] = $event"
          />
          {{ spokenUnit(m.unit) }}
          <button v-if="m.pack" type="button" class="pack" :data-test="`pack-${m.name}`" @click="aPack(m)">
            a pack
          </button>
        </span>
      </div>
    </div>
  </section>
  <form class="sheet group another" @submit.prevent="another()">
    <label>something else: <input v-model="ownName" class="own" maxlength="80" name="own-material" /></label>
    <label>
      counted in
      <select v-model="ownUnit" class="own">
        <option value="pieces">pieces</option>
        <option value="mg">{{ massUnit() === "oz" ? $t("ounces") : $t("grams") }}</option>
        <option value="µm">metres</option>
      </select>
    </label>
    <button class="add" :disabled="!ownName.trim()">Add it</button>
  </form>
  <v-btn
    color="primary"
    :disabled="!counted.length || !person || take.isPending.value"
    data-test="take-materials"
    @click="take.mutate()"
  >
    {{ $t("{n} thing is there so | {n} things are there so", counted.length) }}
  </v-btn>
  <span v-if="took" class="quiet" role="status" data-test="took"> Written down: {{ took }}.</span>
  <p class="quiet">
    What has no figure is left out, or stays as it is. Prices, allergens and suppliers are on their sheets in
    <RouterLink class="add" to="/studio">Studio</RouterLink>.
  </p>
  <ProblemNote :error="take.error.value" />
</template>

<style scoped>
.group {
  padding: 10px 18px;
  margin-bottom: 12px;
}
.another {
  display: flex;
  flex-wrap: wrap;
  gap: 14px;
  align-items: center;
}
.lines {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(235px, 1fr));
  gap: 6px 18px;
}
.line {
  display: grid;
  gap: 1px;
  padding: 4px 0;
}
small {
  color: var(--soft);
}
.there small {
  color: var(--leaf);
}
.count {
  display: flex;
  gap: 8px;
  align-items: center;
}
.count :deep(input) {
  width: 92px;
}
.pack {
  min-height: 40px;
  padding: 0 12px;
  font: 600 0.95rem var(--count);
  color: var(--ink);
  background: var(--night);
  border: 0;
  border-radius: 3px 12px;
  cursor: pointer;
}
</style>
