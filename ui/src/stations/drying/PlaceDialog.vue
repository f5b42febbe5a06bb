<script setup lang="ts">
import { v7 } from "uuid";
import { computed } from "vue";
import { useWorkshop } from "../../api/queries";
import type { Row } from "../../parts/fields/fields";
import { fresh } from "../studio/sheets";
import ThingSheet from "../studio/ThingSheet.vue";
import { useSheets } from "../studio/useSheets";

/** The sheet of a kind of place, where its shelf stands: a new one if none is named. */
const props = defineProps<{ place?: string }>();
const emit = defineEmits<{ close: [] }>();
const { data: shop } = useWorkshop();
const sheet = useSheets();
const begun: Row = { id: v7(), ...fresh.places!() };
const thing = computed(() =>
  props.place ? (shop.value?.places.find((p) => p.id === props.place) as Row | undefined) : begun,
);
</script>

<template>
  <ThingSheet
    v-if="thing"
    kind="places"
    :thing="thing"
    :is-new="!place"
    :sheet="sheet.places!"
    :title="$t('Another kind of place')"
    @close="emit('close')"
    @saved="emit('close')"
  />
</template>
