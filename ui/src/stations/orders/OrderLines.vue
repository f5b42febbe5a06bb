<script setup lang="ts">
import { useStudio } from "../../api/queries";
import { type DraftLine, newLine } from "./draft";

/** The flowers that an order asks for, line by line. */
defineProps<{ flaw?: (field: string) => string | undefined }>();
const lines = defineModel<DraftLine[]>({ required: true });
const { data: studio } = useStudio();

const flower = (recipe: string) => studio.value?.flowers.find((f) => f.id === recipe);
const variants = (recipe: string) => flower(recipe)?.variants ?? [];
</script>

<template>
  <div v-for="(l, i) in lines" :key="i" class="line">
    <v-text-field
      v-model="l.quantity"
      label="How many"
      :name="`quantity-${i}`"
      inputmode="numeric"
      :error-messages="flaw?.(`lines[${i}].quantity`)"
    />
    <v-select
      v-model="l.recipe"
      label="Flower"
      :data-test="`flower-${i}`"
      :items="studio?.flowers.filter((f) => f.latest || f.id === l.recipe)"
      item-title="name"
      item-value="id"
      :error-messages="flaw?.(`lines[${i}].recipe`)"
    />
    <v-select
      v-model="l.colourway"
      label="Colourway"
      :data-test="`colourway-${i}`"
      :items="[
        ...(flower(l.recipe)?.colours[''] ? [{ id: '', name: $t('its own colours') }] : []),
        ...(studio?.colourways ?? []),
      ]"
      item-title="name"
      item-value="id"
      :error-messages="flaw?.(`lines[${i}].colourway`)"
      no-data-text="There is no colourway yet: write one in the flower book"
    />
    <button type="button" class="bare" aria-label="Remove this line" @click="lines.splice(i, 1)">✕</button>
    <v-select
      v-if="variants(l.recipe).length"
      v-model="l.variant"
      class="variant"
      label="Variant"
      :data-test="`variant-${i}`"
      :items="[{ title: $t('as it is'), value: '' }, ...variants(l.recipe).map((v) => ({ title: v, value: v }))]"
      :error-messages="flaw?.(`lines[${i}].variant`)"
    />
    <v-select
      v-if="flower(l.recipe)?.otherwise.length"
      v-model="l.otherwise"
      class="otherwise"
      label="Made otherwise than the book says"
      multiple
      :data-test="`otherwise-${i}`"
      :items="flower(l.recipe)?.otherwise"
    />
  </div>
  <button type="button" class="bare add" data-test="add-line" @click="lines.push(newLine())">Add a flower</button>
</template>

<style scoped>
.line {
  display: grid;
  grid-template-columns: 142px 1.2fr 1fr 24px;
  gap: 10px;
  margin: 8px 0;
  align-items: start;
}
.variant {
  grid-column: 2;
}
.otherwise {
  grid-column: 1 / 4;
}
.add {
  color: var(--leaf);
  font-weight: 650;
  padding: 6px 0;
}
@media (max-width: 700px) {
  .line {
    grid-template-columns: 84px 1fr 24px;
  }
  .line > :nth-child(3),
  .variant,
  .otherwise {
    grid-column: 2;
  }
  .line > button {
    grid-column: 3;
    grid-row: 1;
  }
}
</style>
