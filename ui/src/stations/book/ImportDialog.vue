<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { answered, client, person, type Schemas, useCommands } from "../../api/client";
import { useUsual } from "../../api/queries";
import ProblemNote from "../../parts/ProblemNote.vue";
import { clashWords } from "../../words";
import { placeWords, valueWords } from "../../parts/fields/fields";
import { t, word } from "../../words/said";
import { inWords } from "../../words/refusals";

/** A file of recipes: what it would bring, what is decided of it, and taking it in. */
const props = defineProps<{ most: number }>();
const emit = defineEmits<{ close: [] }>();
const file = ref("");
const name = ref("");
const large = ref(false);
const choices = ref<Record<string, "keep" | "take" | "beside">>({});
const body = computed(() => ({ file: file.value, choices: choices.value }));
const preview = useMutation({
  mutationFn: () => answered(client.POST("/api/book/import/preview", { body: body.value })),
});
const { data: usual } = useUsual();
const send = useCommands();
const take = useMutation({
  mutationFn: () =>
    send(["import", body.value], (header) =>
      answered(client.POST("/api/book/import", { params: { header }, body: body.value })),
    ),
});
const words: Record<string, string> = {
  new: t("new here"),
  changed: t("changed"),
  same: t("the same"),
  kept: t("yours stays"),
  conflict: t("in conflict"),
};
const order = ["conflict", "changed", "new", "kept", "same"];
const own = computed(() => preview.data.value?.things.filter((t) => t.ownColours).map((t) => t.name) ?? []);
const groups = computed(() =>
  order
    .map((state) => ({ state, things: (preview.data.value?.things ?? []).filter((t) => t.state === state) }))
    .filter((g) => g.things.length),
);

async function read(event: Event) {
  const input = event.target as HTMLInputElement;
  const chosen = input.files?.[0];
  if (!chosen) return;
  name.value = chosen.name;
  large.value = chosen.size > props.most;
  if (large.value) return;
  file.value = await chosen.text();
  choices.value = {};
  take.reset();
  preview.mutate();
  input.value = "";
}
/** A flower of the book that ships with the program. */
async function ship(page: string) {
  const flower = usual.value?.flowers.find((f) => f.id === page);
  if (!flower) return;
  name.value = flower.name;
  large.value = false;
  file.value = await (await fetch(`/api/workshop/usual/flowers/${page}`)).text();
  choices.value = {};
  take.reset();
  preview.mutate();
}
function decide(t: Schemas["Thing"], choice: string) {
  choices.value = { ...choices.value, [t.id]: choice as "keep" };
  preview.mutate();
}
const options = (t: Schemas["Thing"]) =>
  ["mix", "part", "flower", "spray"].includes(t.kind) ? ["take", "keep", "beside"] : ["keep", "beside"];
const says: Record<string, string> = {
  take: t("take it as a new revision"),
  keep: t("keep yours"),
  beside: t("take it beside yours"),
};
</script>

<template>
  <v-dialog
    :model-value="true"
    :aria-label="$t('Take in recipes')"
    max-width="860"
    persistent
    @keydown.esc="emit('close')"
  >
    <section class="sheet form" data-test="import">
      <h2>Take in recipes</h2>
      <template v-if="take.isSuccess.value">
        <p data-test="taken">
          <b>Taken in:</b> {{ take.data.value?.adds.recipes.length }} recipes, each as its own revision. “Take back…”
          undoes all of it.
        </p>
        <footer><v-btn color="primary" @click="emit('close')">Done</v-btn></footer>
      </template>
      <template v-else>
        <p class="quiet">
          A file that this or another studio has handed on. You see what it would bring first; it comes in whole, or not
          at all.
        </p>
        <label class="add"
          >{{ name || $t("Choose the file")
          }}<input type="file" name="recipes-file" accept=".json,application/json" hidden @change="read"
        /></label>
        <label v-if="usual?.flowers.length" class="usual">
          or a flower that ships with Bractum
          <select class="own" data-test="usual-flower" @change="ship(($event.target as HTMLSelectElement).value)">
            <option value="">choose…</option>
            <option v-for="f in usual.flowers" :key="f.id" :value="f.id">{{ f.name }}</option>
          </select>
        </label>
        <p v-if="large" class="large" role="alert">
          This file is larger than the {{ most / 1048576 }} MiB that are taken at once. Nothing was taken.
        </p>
        <ProblemNote :error="preview.error.value ?? take.error.value" />
        <ul v-if="preview.data.value?.problems?.length" class="large" data-test="would-break">
          <li v-for="p in preview.data.value.problems.slice(0, 5)" :key="p.place">
            Taken in so, {{ placeWords(p.place) }} {{ inWords(p.message, p.says) }}
          </li>
        </ul>
        <p v-if="preview.data.value?.unskilled?.length" class="large" data-test="unskilled">
          Nobody here can do {{ preview.data.value.unskilled.join(", ") }}: what needs it can be taken in, and is not
          planned until somebody can.
        </p>
        <p v-if="own.length" class="large" data-test="own-colours">
          {{ own.join(", ") }}: keeps its own colours where it goes into a flower of yours; your colourways use the same
          slot names for others.
        </p>
        <div v-if="preview.data.value" class="list">
          <section v-for="g in groups" :key="g.state" :data-test="`state-${g.state}`">
            <h3>{{ g.things.length }} {{ words[g.state] }}</h3>
            <template v-if="g.state === 'conflict' || g.state === 'changed'">
              <article v-for="t in g.things" :key="t.kind + t.id">
                <b>{{ t.name }}</b> <span class="quiet">{{ word(t.kind) }} {{ clashWords(t) }}</span>
                <select
                  :value="t.choice ?? ''"
                  :aria-label="$t('What to do with {name}', { name: t.name })"
                  @change="decide(t, ($event.target as HTMLSelectElement).value)"
                >
                  <option v-if="!t.choice" value="">decide…</option>
                  <option v-for="o in options(t)" :key="o" :value="o">{{ says[o] }}</option>
                </select>
                <ul>
                  <li v-for="c in t.changes.slice(0, 12)" :key="c.place" class="quiet">
                    {{ placeWords(c.place) }}: {{ valueWords(c.place, c.was) }} → {{ valueWords(c.place, c.is) }}
                  </li>
                  <li v-if="t.changes.length > 12" class="quiet">and {{ t.changes.length - 12 }} more</li>
                </ul>
              </article>
            </template>
            <p v-else>{{ g.things.map((t) => t.name).join(", ") }}</p>
          </section>
        </div>
        <footer>
          <v-btn variant="text" @click="emit('close')">Leave it</v-btn>
          <v-btn
            color="primary"
            data-test="take-in"
            :disabled="
              !person ||
              !preview.data.value ||
              preview.data.value.open > 0 ||
              !!preview.data.value.problems?.length ||
              preview.isPending.value
            "
            :loading="take.isPending.value"
            @click="take.mutate()"
          >
            {{
              !person
                ? $t("Say who is here first")
                : preview.data.value?.open
                  ? $t("{open} to decide", { open: preview.data.value.open })
                  : $t("Take it in")
            }}
          </v-btn>
        </footer>
      </template>
    </section>
  </v-dialog>
</template>

<style scoped>
.form {
  padding: 22px 26px;
}
.large {
  color: var(--late);
  font-weight: 600;
}
.list {
  max-height: 56vh;
  overflow: auto;
}
h3 {
  margin: 12px 0 2px;
}
article {
  border-top: 1px solid var(--vein);
  padding: 5px 0;
}
article ul,
p {
  margin: 2px 0;
}
select {
  font: inherit;
  float: right;
}
footer {
  display: flex;
  justify-content: flex-end;
  gap: 10px;
  margin-top: 18px;
}
</style>
