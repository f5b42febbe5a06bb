<script setup lang="ts">
import { renderSVG } from "uqr";
import { computed } from "vue";
import { useStudio } from "../../api/queries";
import { useTimes } from "../../format";

/** What stands at the foot of what is printed: the studio, the day, and a code that opens the page again. */
const props = defineProps<{ path: string }>();
const { data: studio } = useStudio();
const times = useTimes();
const code = computed(
  () => `data:image/svg+xml;utf8,${encodeURIComponent(renderSVG(location.origin + props.path, { border: 1 }))}`,
);
</script>

<template>
  <footer class="foot" data-test="foot">
    <img :src="code" alt="a code that opens this page" width="84" height="84" />
    <p v-if="studio">
      <b>{{ studio.name }}</b> <br />{{ times.full(studio.now) }}
    </p>
  </footer>
</template>

<style scoped>
.foot {
  display: none;
}
@media print {
  .foot {
    display: flex;
    gap: 1rem;
    align-items: center;
    margin-top: 0.6rem;
    break-inside: avoid;
  }
}
</style>
