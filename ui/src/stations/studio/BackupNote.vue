<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from "@tanstack/vue-query";
import { computed } from "vue";
import { answered, client } from "../../api/client";
import { plain } from "../../format";
import ProblemNote from "../../parts/ProblemNote.vue";

/** What there is to go back to, should the disk or the computer be lost. */
const { data: all, error } = useQuery({
  queryKey: ["backups"],
  queryFn: () => answered(client.GET("/api/backups")),
  staleTime: 0,
  refetchInterval: 600_000,
});
const queries = useQueryClient();
const now = useMutation({
  mutationFn: () => answered(client.POST("/api/backups")),
  onSettled: () => void queries.invalidateQueries({ queryKey: ["backups"] }),
});
const last = computed(() => all.value?.backups[0]);
const said = new Intl.DateTimeFormat(undefined, { dateStyle: "medium", timeStyle: "short" });
const when = (at: string) => said.format(Date.parse(at));
const size = (bytes: number) => `${plain(Math.max(0.1, Math.round(bytes / 100_000) / 10))} MB`;
</script>

<template>
  <section v-if="all" data-test="backups">
    <h2>Should all be lost</h2>
    <p :class="{ remark: all.late || all.trouble }">
      <template v-if="last">
        The last backup is of {{ when(last.at) }}, {{ size(last.bytes) }}, and was read through.
        <a :href="`/api/backups/${encodeURIComponent(last.name)}`" download>Keep it elsewhere too</a>
      </template>
      <template v-else>There is no backup yet.</template>
      <template v-if="last && all.late"> That is more than two days ago.</template>
      <template v-if="all.trouble"> The next could not be made: {{ all.trouble }}.</template>
    </p>
    <p class="quiet">
      <template v-if="all.kept">One is made every night</template>
      <template v-else>None is made by itself here</template>, in <code>{{ all.folder }}</code>
      <template v-if="all.backups.length > 1">; {{ all.backups.length }} are kept</template>. A stick or another
      computer is a better place: <code>--backups</code>. <code>bractum restore</code> puts one into an empty folder.
    </p>
    <v-btn variant="tonal" size="small" data-test="backup-now" :loading="now.isPending.value" @click="now.mutate()">
      Make one now
    </v-btn>
    <ProblemNote :error="error ?? now.error.value" />
  </section>
</template>
