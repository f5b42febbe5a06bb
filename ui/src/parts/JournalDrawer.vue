<script setup lang="ts">
import { person } from "../api/client";
import { useJournal, useMayUndo, useUndo } from "../api/queries";
import { useTimes } from "../format";
import HistoryPages from "./HistoryPages.vue";
import ProblemNote from "./ProblemNote.vue";

/** What was recorded, page by page; what can be taken back says so. */
const open = defineModel<boolean>({ required: true });
const { sought, lines: entries, more, busy, error, earlier } = useJournal(open);
const times = useTimes();
const undo = useUndo();
const mayUndo = useMayUndo();
</script>

<template>
  <v-dialog v-model="open" max-width="620" :aria-label="$t('What was recorded')">
    <div class="sheet journal">
      <h2>What was recorded</h2>
      <RouterLink class="add" to="/journal" data-test="whole-journal" @click="open = false"
        >The whole journal, with what was before and after</RouterLink
      >
      <ProblemNote :error="undo.error.value ?? error" />
      <HistoryPages
        v-model="sought"
        test="journal"
        :number="entries.length"
        :more="more"
        :busy="busy"
        @earlier="earlier"
      >
        <ol>
          <li v-for="e in entries" :key="e.n" :class="{ undone: e.undone }">
            <span class="quiet">{{ times.full(e.at) }}</span>
            <span class="what"
              >{{ e.summary }} <span class="quiet">{{ e.person }}</span></span
            >
            <button
              v-if="mayUndo(e)"
              class="bare take"
              :disabled="!person || undo.isPending.value"
              :data-test="`undo-${e.n}`"
              @click="undo.mutate(e.n)"
            >
              take back
            </button>
          </li>
        </ol>
      </HistoryPages>
    </div>
  </v-dialog>
</template>

<style scoped>
.journal {
  padding: 22px 26px;
  max-height: 80vh;
  overflow: auto;
}
ol {
  list-style: none;
  margin: 12px 0 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: 132px 1fr auto;
  gap: 10px;
  padding: 8px 0;
  border-bottom: 1px solid var(--vein);
}
.undone .what {
  text-decoration: line-through;
  color: var(--soft);
}
.take {
  color: var(--petal);
  font-weight: 600;
}
</style>
