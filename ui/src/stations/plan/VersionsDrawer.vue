<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { answered, client, command, person } from "../../api/client";
import { useVersions } from "../../api/queries";
import { useTimes } from "../../format";
import ProblemNote from "../../parts/ProblemNote.vue";
import SideDrawer from "../../parts/SideDrawer.vue";

/** The versions that the plan in force has had: look at one, or propose to go back to it. */
const shown = defineModel<string>({ required: true });
const emit = defineEmits<{ close: []; proposed: [] }>();
const { data: versions, error } = useVersions(true);
const times = useTimes();
const back = useMutation({
  mutationFn: (version: number) =>
    answered(client.POST("/api/plan/versions/{version}/propose", { params: { header: command(), path: { version } } })),
  onSuccess: () => emit("proposed"),
});
</script>

<template>
  <SideDrawer title="Versions" data-test="versions" @close="emit('close')">
    <p class="quiet">What happens makes a new one; so does a plan that is accepted.</p>
    <ProblemNote :error="error ?? back.error.value" />
    <ol>
      <li
        v-for="(v, i) in versions"
        :key="v.version"
        :class="{ here: shown === `v${v.version}` || (i === 0 && !shown) }"
      >
        <button class="bare" :data-test="`version-${v.version}`" @click="shown = i === 0 ? '' : `v${v.version}`">
          <b>{{ v.version }}</b> {{ v.accepted ? "★ " : "" }}{{ v.summary }}
          <span class="quiet">{{ times.moment(v.at) }}{{ v.person ? `, ${v.person}` : "" }}</span>
        </button>
        <button
          v-if="shown === `v${v.version}`"
          class="bare add"
          data-test="go-back"
          :disabled="!person"
          @click="back.mutate(v.version)"
        >
          Propose to go back to it
        </button>
      </li>
    </ol>
  </SideDrawer>
</template>

<style scoped>
ol {
  list-style: none;
  padding: 0;
  margin: 8px 0;
}
li {
  padding: 6px 8px;
  font-size: 0.9333rem;
  border-bottom: 1px solid var(--vein);
}
li.here {
  background: var(--dust-wash);
}
.quiet {
  display: block;
}
</style>
