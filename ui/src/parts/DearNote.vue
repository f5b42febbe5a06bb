<script setup lang="ts">
import { computed } from "vue";
import { useQuery } from "@tanstack/vue-query";
import { answered, client } from "../api/client";
import { t } from "../words/said";

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
  const done =
    b.of > 0
      ? t("{done} of {of} done", { done: b.done, of: b.of })
      : t("for {seconds} s", { seconds: Math.round(b.seconds) });
  return b.waiting > 0 ? `${done}, ${t("{n} waits | {n} wait", b.waiting)}` : done;
});
</script>

<template>
  <p class="quiet" aria-live="polite" data-test="dear">{{ what }} {{ far }}</p>
</template>
