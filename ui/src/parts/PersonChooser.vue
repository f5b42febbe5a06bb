<script setup lang="ts">
import { useMutation, useQueryClient } from "@tanstack/vue-query";
import { useIdle, useIntervalFn } from "@vueuse/core";
import { computed } from "vue";
import { useAccess, useSeat } from "../api/access";
import { answered, client, person } from "../api/client";
import { useStudio } from "../api/queries";
import PinDialog from "./PinDialog.vue";

/** Who is at this bench: every write names a person. Where people sign in, this is where they sign out. */
const { data: studio } = useStudio();
const { data: access } = useAccess();
const { sit, leave } = useSeat();
const queries = useQueryClient();
const name = computed(() => studio.value?.people.find((p) => p.id === person.value)?.name);
/** Untouched for as long as the studio says, a tablet forgets who was there; what they recorded is still sent. */
const { lastActive } = useIdle(60_000);
const minute = 60_000;
useIntervalFn(() => {
  const after = (studio.value?.seatMinutes ?? 0) * minute;
  if (after && person.value && access.value?.kind === "tablet" && Date.now() - lastActive.value > after)
    leave().catch(() => {}); // without a connection it is told the next time
}, 5000);
const out = useMutation({
  mutationFn: () => answered(client.POST("/api/access/sign-out")),
  onSuccess: () => void queries.invalidateQueries({ queryKey: ["access"] }),
});
</script>

<template>
  <v-menu>
    <template #activator="{ props }">
      <button v-bind="props" class="bare who" data-test="who">
        <span class="quiet">
          <template v-if="access?.kind === 'person'">signed in</template>
          <template v-else-if="access?.kind === 'tablet'">{{ access.name }}</template>
          <template v-else>at this bench</template>
        </span>
        <strong :class="{ nobody: !name }">{{ name ?? $t("Who is here?") }}</strong>
      </button>
    </template>
    <div class="sheet menu">
      <button v-if="access?.kind === 'person'" class="bare" data-test="sign-out" @click="out.mutate()">Sign out</button>
      <template v-else>
        <button
          v-for="p in studio?.people"
          :key="p.id"
          class="bare"
          :data-test="`sit-${p.name}`"
          @click="sit(p.id).catch(() => {})"
        >
          {{ p.name }}
        </button>
        <button
          v-if="access?.kind === 'tablet' && person"
          class="bare quiet"
          data-test="stand-up"
          @click="leave().catch(() => {})"
        >
          Nobody, for now
        </button>
      </template>
    </div>
  </v-menu>
  <PinDialog />
</template>

<style scoped>
.who {
  display: grid;
  line-height: 1.2;
}
.nobody {
  color: var(--late);
}
.menu {
  display: grid;
  padding: 10px 0;
  min-width: 150px;
}
.menu button {
  padding: 12px 20px;
}
.menu button:hover {
  background: var(--leaf-wash);
}
</style>
