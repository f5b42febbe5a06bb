<script setup lang="ts">
import { renderSVG } from "uqr";
import { computed } from "vue";
import type { Schemas } from "../../api/client";
import { useTimes } from "../../format";

/** A label for each box of an order, a page each: what lies in it, that not all of it is food, a code to its sheet. */
const props = defineProps<{ sheet: Schemas["SheetView"] }>();
const times = useTimes();
const code = computed(
  () =>
    `data:image/svg+xml;utf8,${encodeURIComponent(renderSVG(`${location.origin}/orders/${props.sheet.order.id}/sheet`, { border: 1 }))}`,
);
</script>

<template>
  <div class="labels">
    <article v-for="(b, i) in sheet.packing.boxes" :key="i" class="label" data-test="box-label">
      <h1>{{ sheet.order.name }}</h1>
      <p class="which">{{ $t("Box {n} of {of}", { n: i + 1, of: sheet.packing.boxes.length }) }}</p>
      <p>{{ b.holds }}</p>
      <p>
        <b>{{ times.wall(sheet.order.leaves) }}</b>
        {{ sheet.order.goes }}
      </p>
      <p v-if="sheet.order.allergies.length">
        <b>{{ $t("Asked for without: {what}.", { what: sheet.order.allergies.join(", ") }) }}</b>
      </p>
      <p>
        Sugar flowers with parts that are not food: read the sheet. This side up, dry, dark, no refrigerator.
        <template v-if="b.dry">Holds a desiccant: not food.</template>
      </p>
      <footer><img :src="code" alt="a code that opens the sheet" width="84" height="84" /> {{ sheet.studio }}</footer>
    </article>
  </div>
</template>

<style scoped>
.labels {
  display: none;
}
.which {
  font-size: 1.3rem;
}
footer {
  display: flex;
  gap: 1rem;
  align-items: center;
}
@media print {
  .labels {
    display: block;
  }
  .label:not(:last-child) {
    break-after: page;
  }
}
</style>
