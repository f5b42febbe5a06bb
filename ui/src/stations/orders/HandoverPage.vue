<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { computed, reactive, ref, watch } from "vue";
import { useRoute } from "vue-router";
import { answered, client, person, type Schemas, useCommands } from "../../api/client";
import { useSheet, useStudio } from "../../api/queries";
import BoxDrawing from "../../drawings/BoxDrawing.vue";
import NumberField from "../../parts/NumberField.vue";
import ProblemNote from "../../parts/ProblemNote.vue";
import { useTimes } from "../../format";
import { findingWords } from "../../words/placings";
import PaperFoot from "../bench/PaperFoot.vue";
import BoxLabels from "./BoxLabels.vue";
import { useLineColours } from "./colours";
import HandoverSheet from "./HandoverSheet.vue";

/** One order is packed, signed off and handed over; beside that, the sheet that goes with it. */
const route = useRoute();
const id = computed(() => String(route.params.id));
const { data: sheet, error, refetch } = useSheet(id);
const { data: studio } = useStudio();
const times = useTimes();
const send = useCommands();
const labels = ref(false);

type Command = "pack" | "count-out" | "boxes" | "sign-off" | "came-back" | "after";
const doing = useMutation({
  mutationFn: ({ what, body }: { what: Command; body: unknown }) =>
    send([id.value, what, sheet.value?.version, body], (header) =>
      answered(
        client.POST(`/api/orders/{id}/${what}` as "/api/orders/{id}/pack", {
          params: { path: { id: id.value }, header: { ...header, "If-Match": sheet.value?.version ?? 0 } },
          body: body as Schemas["PacksBody"],
        }),
      ),
    ),
  onSettled: () => refetch(),
});
const act = (what: Command, body: unknown) => doing.mutate({ what, body });
const forget = useMutation({
  mutationFn: () =>
    send(["forget", id.value], (header) =>
      answered(client.POST("/api/orders/{id}/forget-client", { params: { path: { id: id.value }, header } })),
    ),
  onSettled: () => refetch(),
});

const packed = (line: string) => sheet.value?.packing.lines.find((l) => l.line === line);
const count = (material: string) => sheet.value?.packing.out.find((o) => o.material === material)?.number;
const back = (material: string) => sheet.value?.packing.returned.find((o) => o.material === material)?.number;
/** What is typed for each line, and kept once it is counted in. */
const good = reactive<Record<string, number | undefined>>({});
const second = reactive<Record<string, number | undefined>>({});
const out = reactive<Record<string, number | undefined>>({});
const returned = reactive<Record<string, number | undefined>>({});
watch(
  sheet,
  (s) => {
    for (const l of s?.lines ?? []) {
      good[l.line] ??= packed(l.line)?.good ?? Math.min(l.owed, l.there);
      second[l.line] ??= packed(l.line)?.second || undefined;
    }
    for (const p of s?.contents.out ?? []) out[p.material] ??= count(p.material);
    for (const p of s?.lent ?? []) returned[p.material] ??= back(p.material);
  },
  { immediate: true },
);
const boxes = ref<Schemas["Boxed"][]>([]);
watch(
  () => sheet.value?.packing.boxes,
  (now) => {
    if (now && JSON.stringify(now) !== JSON.stringify(boxes.value)) boxes.value = JSON.parse(JSON.stringify(now));
  },
  { immediate: true },
);
const colour = useLineColours(() => sheet.value?.order.lines);
function takeBoxes() {
  const dry = sheet.value?.damp || undefined;
  boxes.value = (sheet.value?.proposed ?? []).map((b) => ({ box: b.box, holds: b.says, dry }));
  const rest = (sheet.value?.byEye ?? []).map((e) => `${e.number} ${e.name}`).join(", ");
  if (rest) boxes.value.push({ holds: rest, dry });
}
const checked = ref("");
const receives = ref("");
const missing = computed(() =>
  (sheet.value?.lines ?? []).reduce(
    (sum, l) => sum + l.owed - (packed(l.line)?.good ?? 0) - (packed(l.line)?.second ?? 0),
    0,
  ),
);
/** The flowers of a place on a cake. */
const placed = (placing: string) => {
  const p = sheet.value?.order.cakes?.flatMap((c) => c.placings ?? []).find((one) => one.id === placing);
  return sheet.value?.lines.find((l) => l.line === p?.line)?.name ?? "";
};
const some = computed(() => (sheet.value?.packing.lines ?? []).some((l) => l.good + l.second > 0));
const open = computed(() => sheet.value?.order.state === "open" && !sheet.value.packing.signed);
const says = ref("");
const broke = ref<number>();
function hear() {
  act("after", { says: says.value, broke: broke.value ?? 0 });
  says.value = "";
  broke.value = undefined;
}
const people = computed(() => studio.value?.people ?? []);
async function print(what: "sheet" | "labels") {
  labels.value = what === "labels";
  await new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)));
  window.print();
}
const concerned = computed(() => (sheet.value?.contents.allergens ?? []).filter((a) => a.concerns));
</script>

<template>
  <div class="station paper over">
    <ProblemNote :error="error" />
    <template v-if="sheet">
      <div class="pack no-print">
        <p><RouterLink class="add" to="/orders">‹ Orders</RouterLink></p>
        <h1>{{ $t("Packing {order}", { order: sheet.order.name }) }}</h1>
        <p v-for="a in concerned" :key="a.name" class="wrong" role="alert" data-test="concerned">
          {{
            $t("{order} must have no {allergen}, and {materials} is in it. Stop, and ask.", {
              order: sheet.order.name,
              allergen: a.name,
              materials: a.materials.join(", "),
            })
          }}
        </p>
        <ul v-if="open && sheet.findings.length" class="quiet">
          <li v-for="f in sheet.findings" :key="f.placing + f.case">
            <b>{{ placed(f.placing) }}</b>: {{ findingWords(f) }}
          </li>
        </ul>
        <img
          v-for="p in sheet.order.pictures ?? []"
          :key="p.id"
          class="sketch"
          :src="`/api/book/pictures/${p.id}`"
          :alt="p.name"
          loading="lazy"
        />
        <ProblemNote :error="doing.error.value ?? forget.error.value" />

        <template v-if="open">
          <h2>Counted in</h2>
          <form
            v-for="l in sheet.lines"
            :key="l.line"
            class="row"
            @submit.prevent="act('pack', { line: l.line, good: good[l.line] ?? 0, second: second[l.line] ?? 0 })"
          >
            <b>{{ l.name }}</b>
            <span class="quiet">{{ $t("{owed} owed, {there} there", { owed: l.owed, there: l.there }) }}</span>
            <label>good <NumberField v-model="good[l.line]" whole :data-test="`pack-${l.name}`" /></label>
            <label>second <NumberField v-model="second[l.line]" whole :data-test="`second-${l.name}`" /></label>
            <v-btn size="small" variant="tonal" type="submit" :data-test="`count-in-${l.name}`" :disabled="!person">
              {{ packed(l.line) ? $t("Count anew") : $t("Count in") }}
            </v-btn>
            <span v-if="packed(l.line)" class="done" :data-test="`packed-${l.name}`">
              {{ $t("✓ {n} by {who}", { n: packed(l.line)!.good + packed(l.line)!.second, who: l.packedBy ?? "" }) }}
            </span>
          </form>
          <template v-if="sheet.contents.out.length">
            <h2>Out again, as many as went in</h2>
            <form
              v-for="p in sheet.contents.out"
              :key="p.material"
              class="row"
              @submit.prevent="act('count-out', { material: p.material, number: out[p.material] ?? 0 })"
            >
              <b>{{ p.name }}</b>
              <span class="quiet">{{
                p.least === p.most
                  ? $t("{n} went in", { n: p.most })
                  : $t("{least} to {most} went in", { least: p.least, most: p.most })
              }}</span>
              <label>out <NumberField v-model="out[p.material]" whole :data-test="`out-${p.name}`" /></label>
              <v-btn size="small" variant="tonal" type="submit" :disabled="!person">These are out</v-btn>
              <span v-if="count(p.material) !== undefined" class="done">{{ `✓ ${count(p.material)}` }}</span>
            </form>
          </template>
          <h2>Boxes</h2>
          <p class="quiet">
            Nothing touches another flower or a wall.
            <template v-if="sheet.damp"
              >The air is damp: desiccant goes in, and boxes wait closed in a dry cupboard.</template
            >
          </p>
          <template v-if="!boxes.length && sheet.proposed.length">
            <div class="row" data-test="proposed-boxes">
              <figure v-for="(b, i) in sheet.proposed" :key="i">
                <BoxDrawing :box="b" :colour="colour" :width="200" />
                <figcaption>{{ b.name }}: {{ b.says }}</figcaption>
              </figure>
            </div>
            <p v-if="sheet.byEye.length" class="quiet">
              By eye: {{ sheet.byEye.map((e) => `${e.number} ${e.name}`).join(", ") }}.
            </p>
            <button type="button" class="bare add" data-test="take-boxes" @click="takeBoxes">Pack it so</button>
          </template>
          <div v-for="(b, i) in boxes" :key="i" class="row">
            <select v-if="sheet.boxes.length" v-model="b.box" class="own" :aria-label="$t('Which box')">
              <option :value="undefined">any box</option>
              <option v-for="one in sheet.boxes" :key="one.id" :value="one.id">{{ one.name }}</option>
            </select>
            <input
              v-model="b.holds"
              class="own holds"
              :placeholder="$t('what lies in it')"
              :name="`box-${i}`"
              maxlength="400"
            />
            <label><input v-model="b.dry" type="checkbox" /> desiccant</label>
            <button type="button" class="bare" :aria-label="$t('Take this box away')" @click="boxes.splice(i, 1)">
              ✕
            </button>
          </div>
          <div class="row">
            <button
              type="button"
              class="bare add"
              data-test="add-box"
              @click="boxes.push({ holds: '', dry: sheet.damp || undefined })"
            >
              Another box
            </button>
            <v-btn
              size="small"
              variant="tonal"
              data-test="fill-boxes"
              :disabled="!person"
              @click="act('boxes', { boxes })"
              >Keep the boxes so</v-btn
            >
          </div>
          <h2>Sign off</h2>
          <div class="row">
            <label>
              looked at by
              <select v-model="checked" class="own" data-test="checked">
                <option value="">nobody else</option>
                <option v-for="p in people" :key="p.id" :value="p.id">{{ p.name }}</option>
              </select>
            </label>
            <label>handed to <input v-model="receives" class="own" name="receives" maxlength="120" /></label>
          </div>
          <div class="row">
            <v-btn
              color="primary"
              data-test="sign-off"
              :disabled="!person || !some"
              :loading="doing.isPending.value"
              @click="act('sign-off', { checked: checked || undefined, receives, part: missing > 0 || undefined })"
            >
              {{
                some && missing > 0
                  ? $t("This part leaves; {n} are still owed", { n: missing })
                  : $t("Sign off: it leaves")
              }}
            </v-btn>
            <span class="quiet">The flowers go off the shelf. Taken back like anything else.</span>
          </div>
        </template>

        <template v-else-if="sheet.packing.signed">
          <p data-test="signed-off" class="done">
            {{
              $t("✓ Signed off {when} by {who}", {
                when: times.full(sheet.packing.signed.at),
                who: sheet.signedBy ?? "",
              })
            }}
          </p>
          <template v-if="sheet.lent.length">
            <h2>Came back</h2>
            <form
              v-for="p in sheet.lent"
              :key="p.material"
              class="row"
              @submit.prevent="act('came-back', { material: p.material, number: returned[p.material] ?? 0 })"
            >
              <b>{{ p.name }}</b> <span class="quiet">{{ $t("{n} were lent", { n: p.most }) }}</span>
              <NumberField v-model="returned[p.material]" whole :data-test="`back-${p.name}`" />
              <v-btn size="small" variant="tonal" type="submit" :disabled="!person">Book them back</v-btn>
            </form>
          </template>
          <h2>What was heard of it</h2>
          <p v-for="(a, i) in sheet.packing.after" :key="i">
            <span class="quiet">{{ times.full(a.at) }}</span> {{ a.says
            }}<template v-if="a.broke">{{ $t(" ({n} broken on the way)", { n: a.broke }) }}</template>
          </p>
          <form class="row" @submit.prevent="hear">
            <input
              v-model="says"
              class="own holds"
              name="heard"
              :placeholder="$t('what the client said, what arrived how')"
              maxlength="400"
            />
            <label>broken <NumberField v-model="broke" whole data-test="broke" /></label>
            <v-btn size="small" variant="tonal" type="submit" data-test="hear" :disabled="!person">Keep it</v-btn>
          </form>
        </template>
        <p v-else class="quiet">{{ $t("It is {state}, and is not packed.", { state: sheet.order.state }) }}</p>

        <div class="row ways">
          <v-btn variant="outlined" data-test="print-sheet" @click="print('sheet')">Print the sheet</v-btn>
          <v-btn v-if="sheet.packing.boxes.length" variant="outlined" data-test="print-labels" @click="print('labels')"
            >Print the boxes' labels</v-btn
          >
          <button v-if="sheet.order.client" class="bare add" data-test="forget-client" @click="forget.mutate()">
            Forget who asked
          </button>
        </div>
      </div>
      <BoxLabels v-if="labels" :sheet="sheet" />
      <div :class="{ 'no-print': labels }">
        <HandoverSheet :sheet="sheet" />
        <PaperFoot :path="`/orders/${id}/sheet`" />
      </div>
    </template>
  </div>
</template>

<style scoped>
.over {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.15fr);
  gap: 28px;
  align-items: start;
}
h2 {
  font-size: 1.1rem;
  margin: 16px 0 4px;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 12px;
  align-items: center;
  margin: 5px 0;
}
.row b {
  min-width: 8rem;
}
.row :deep(.number) {
  width: 4.2rem;
}
.holds {
  flex: 1;
  min-width: 12rem;
}
.done {
  color: var(--leaf);
  font-weight: 650;
}
.wrong {
  color: var(--late);
  font-weight: 650;
}
figure {
  margin: 0;
}
.sketch {
  max-height: 160px;
  max-width: 46%;
  margin-right: 10px;
}
.ways {
  margin-top: 18px;
}
@media (max-width: 980px) {
  .over {
    grid-template-columns: minmax(0, 1fr);
  }
}
@media print {
  .over {
    display: block;
  }
}
</style>
