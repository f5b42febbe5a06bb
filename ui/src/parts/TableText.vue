<script setup lang="ts">
import { computed, ref, watch } from "vue";
import { t } from "../words/said";
import { parted, readLetters, separatorOf } from "./tableFile";

/** A table as text: pasted, or of a file; how its letters and its cells were read is said, and can be put right. */
const text = defineModel<string>({ required: true });
defineProps<{ rows?: number; test: string }>();
const letters = ref("");
const refused = ref("");
const raw = ref("");
const by = ref("\t");
const signs: { by: string; name: string }[] = [
  { by: "\t", name: t("tabs") },
  { by: ";", name: t("semicolons") },
  { by: ",", name: t("commas") },
  { by: "|", name: t("bars") },
];

/** What is typed or pasted is parted as it is found to be. */
watch(text, (now) => {
  if (now.trim() && now !== raw.value) by.value = separatorOf(now);
});
const most = 4 << 20;
async function take(event: Event) {
  const input = event.target as HTMLInputElement;
  const file = input.files?.[0];
  input.value = "";
  if (!file) return;
  refused.value = letters.value = "";
  if (file.size > most)
    return void (refused.value = t("{name} is larger than a table is; nothing was read.", { name: file.name }));
  const read = readLetters(new Uint8Array(await file.arrayBuffer()));
  if (!read)
    return void (refused.value = t("{name} is no text; save the sheet as CSV first. Nothing was read.", {
      name: file.name,
    }));
  letters.value = read.encoding;
  raw.value = read.text;
  by.value = separatorOf(read.text);
  text.value = read.text;
}
/** The lead says what stands between the cells. */
function part(sign: string) {
  by.value = sign;
  raw.value = text.value = parted(raw.value.trim() ? raw.value : text.value, sign);
}
const found = computed(() => signs.some((s) => s.by === by.value));
</script>

<template>
  <div>
    <textarea v-model="text" :rows="rows ?? 6" aria-label="The table" :data-test="test" />
    <p class="quiet how">
      <label
        >or a file <input type="file" accept=".csv,.tsv,.txt,text/csv" :data-test="`${test}-file`" @change="take"
      /></label>
      <template v-if="text.trim()">
        <span v-if="letters" :data-test="`${test}-letters`">{{ $t("Read as {letters}.", { letters }) }}</span>
        <label>
          Cells are parted by
          <select
            class="own"
            :value="found ? by : ''"
            :data-test="`${test}-by`"
            @change="part(($event.target as HTMLSelectElement).value)"
          >
            <option v-if="!found" value="">something else</option>
            <option v-for="s in signs" :key="s.by" :value="s.by">{{ s.name }}</option>
          </select>
        </label>
      </template>
    </p>
    <p v-if="refused" class="word late" role="alert" :data-test="`${test}-refused`">{{ refused }}</p>
  </div>
</template>

<style scoped>
textarea {
  width: 100%;
  font: inherit;
  padding: 8px 12px;
  border: 1.5px solid var(--vein);
  border-radius: 3px 10px;
}
.how {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 16px;
  align-items: center;
}
</style>
