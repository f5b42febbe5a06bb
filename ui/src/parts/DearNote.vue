<script setup lang="ts">
import { computed } from "vue";
import { useQuery } from "@tanstack/vue-query";
import { answered, client } from "../api/client";

/** Says that something dear is being worked out; how far it is, where that takes longer than a second. */
defineProps<{ what: string }>();
const { data: beside } = useQuery({
  queryKey: ["beside"],
  queryFn: () => answered(client.GET("/api/beside")),
  refetchInterval: 500,
  gcTime: 0,
});
const far = computed(() => {
  const b = beside.value;
  if (!b || b.seconds < 1) return "";
  const done = b.of > 0 ? `${b.done} of ${b.of} done` : `for ${Math.round(b.seconds)} s`;
  return b.waiting > 0 ? `${done}, ${b.waiting} ${b.waiting === 1 ? "waits" : "wait"}` : done;
});
</script>

<template>
  <p class="quiet" aria-live="polite" data-test="dear">{{ what }} {{ far }}</p>
</template>
