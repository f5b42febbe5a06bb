<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { computed, reactive, ref } from "vue";
import type { Column } from "../parts/fields/column";
import type { Row } from "../parts/fields/fields";
import RowsTable from "../parts/fields/RowsTable.vue";
import { useStudio } from "../api/queries";
import { answered, client, type OrderView, Refused, useCommands } from "../api/client";
import ProblemNote from "../parts/ProblemNote.vue";
import SureButton from "../parts/SureButton.vue";
import OrderLeaves from "./OrderLeaves.vue";
import CakeEditor from "./orders/CakeEditor.vue";
import { bodyOf, draftOf, fewer, questionOf } from "./orders/draft";
import OrderPictures from "./orders/OrderPictures.vue";
import OrderLines from "./orders/OrderLines.vue";
import { usePromise } from "./promise/asking";
import PromiseAnswer from "./promise/PromiseAnswer.vue";
import { t, word } from "../words/said";

/** Entering, changing or cancelling one order. What was typed stays until it is saved. */
const props = defineProps<{ order?: OrderView }>();
const emit = defineEmits<{ close: [] }>();

const form = reactive(draftOf(props.order?.order));
const seen = ref(props.order?.version ?? 0);
const body = () => bodyOf(form);
/** Whether it can be taken on, as it stands in the form. */
const promise = usePromise(
  () => questionOf(form, t("This order")),
  () => props.order?.order.id,
);
/** The mixes that a sample can be made of: those of the colourways that are ordered. */
const mixes = computed(() => {
  const wanted = new Set(form.lines.map((l) => l.colourway));
  const all = (studio.value?.colourways ?? []).filter((c) => wanted.has(c.id)).flatMap((c) => c.mixes);
  return [...new Map(all.map((m) => [m.id, { value: m.id, title: m.name }])).values()];
});
const { data: studio } = useStudio();
const id = () => crypto.randomUUID();
const approvalColumns = computed<Column[]>(() => [
  { key: "mix", label: t("colour"), kind: "choice", options: mixes.value, width: 170 },
  { key: "by", label: t("the client's word by"), kind: "text", input: "datetime-local", width: 190 },
  {
    key: "state",
    label: t("so far"),
    kind: "choice",
    options: [
      { value: "to-make", title: t("sample to be made") },
      { value: "sent", title: t("sample is with the client") },
      { value: "approved", title: t("approved") },
      { value: "another", title: t("they want another") },
    ],
    width: 180,
  },
  { key: "note", label: t("note"), kind: "text", width: 200 },
]);
const findings = computed(() => promise.answer.value?.findings ?? []);
const entered = () => ({ ...body(), promise: promise.stale.value ? undefined : promise.answer.value?.id });
/** Another answer is taken: the date or the numbers of it. */
function takeFewer(could: { line: number; could: number }[]) {
  fewer(form, could);
}

type Action = "save" | "cancel";
const leaving = ref(false);

const send = useCommands();
const change = useMutation({
  mutationFn: (action: Action) =>
    send([action, seen.value, body()], async (header) => {
      if (!props.order) return answered(client.POST("/api/orders", { params: { header }, body: entered() }));
      const params = { path: { id: props.order.order.id }, header: { ...header, "If-Match": seen.value } };
      if (action === "cancel") return answered(client.POST("/api/orders/{id}/cancel", { params }));
      return answered(client.PUT("/api/orders/{id}", { params, body: entered() }));
    }),
  onSuccess: () => emit("close"),
});
const refused = computed(() => (change.error.value instanceof Refused ? change.error.value : undefined));
const fields = computed(() => refused.value?.fields.filter((f) => f.location.startsWith("body.")) ?? []);
const stale = computed(() => (refused.value?.status === 412 ? fields.value : undefined));
const flaw = (field: string) => (stale.value ? undefined : refused.value?.at(field));

/** After the other's changes were read, what was wished is done over them. */
function doItOver() {
  const stands = refused.value?.fields.find((f) => f.location === "header.If-Match")?.value;
  if (typeof stands === "number") seen.value = stands;
  change.mutate(change.variables.value ?? "save");
}
const words = (value: unknown) => (Array.isArray(value) ? t("{n} entry | {n} entries", value.length) : String(value));
</script>

<template>
  <v-dialog
    :model-value="true"
    :aria-label="order ? $t('Order {name}', { name: order.order.name }) : $t('A new order')"
    max-width="1160"
    persistent
    @keydown.esc="emit('close')"
  >
    <form class="sheet form" data-test="order-form" @submit.prevent="change.mutate('save')">
      <h2>{{ order ? $t("Order {name}", { name: order.order.name }) : $t("A new order") }}</h2>
      <div class="sides">
        <div>
          <div class="grid">
            <v-text-field v-model="form.name" label="Called" name="name" :error-messages="flaw('name')" autofocus />
            <v-text-field v-model="form.occasion" label="Occasion" name="occasion" />
            <v-text-field
              v-model="form.leaves"
              label="Leaves the studio"
              name="leaves"
              type="datetime-local"
              :error-messages="flaw('leaves')"
            />
            <v-select
              v-model="form.leaving"
              label="How"
              :items="['collected', 'delivered', 'posted'].map((value) => ({ value, title: word(value) }))"
            />
            <v-text-field
              v-model="form.importance"
              label="Importance, 1 to 100"
              name="importance"
              inputmode="numeric"
              :error-messages="flaw('importance')"
            />
            <v-select
              v-model="form.state"
              label="This is"
              data-test="state"
              :items="[
                { title: $t('promised'), value: 'open' },
                { title: $t('a quote only'), value: 'quote' },
              ]"
            />
            <v-text-field
              v-model="form.allergies"
              label="Allergies, with commas"
              name="allergies"
              :hint="$t('Compared with what the materials hold')"
            />
          </div>
          <details class="whom" :open="!!(form.client || form.goes || form.eaten)" data-test="whom">
            <summary>For whom, where it goes, when it is eaten</summary>
            <div class="grid">
              <v-text-field
                v-model="form.client"
                label="Who asks"
                name="client"
                :error-messages="flaw('client.name')"
              />
              <v-text-field
                v-model="form.contact"
                label="How to reach them"
                name="contact"
                :error-messages="flaw('client.contact')"
              />
              <v-text-field v-model="form.goes" label="Goes to" name="goes" :error-messages="flaw('goes')" />
              <v-text-field
                v-model="form.eaten"
                label="The cake is eaten"
                name="eaten"
                type="datetime-local"
                :error-messages="flaw('eaten')"
              />
            </div>
            <p class="quiet">
              Who asks is kept apart from the order, is in no journal line, and can be forgotten on its sheet.
            </p>
          </details>
          <h3>Flowers</h3>
          <p v-if="flaw('lines')" class="flaw">{{ flaw("lines") }}</p>
          <OrderLines v-model="form.lines" :flaw="flaw" />
        </div>
        <PromiseAnswer class="promise" :promise="promise" plain @later="form.leaves = $event" @fewer="takeFewer" />
      </div>

      <RowsTable
        v-if="mixes.length || form.approvals.length"
        name="approvals"
        title="To be approved before it is mixed"
        :rows="form.approvals as unknown as Row[]"
        :columns="approvalColumns"
        more="A dried sample of a colour goes to the client first"
        :fresh="() => ({ id: id(), mix: mixes[0]?.value ?? '', by: form.leaves, state: 'to-make' })"
        :flaws="(n, key) => flaw(`approvals[${n}].${key}`)"
        @rows="(rows) => (form.approvals = rows as unknown as typeof form.approvals)"
      />
      <h3>Cakes</h3>
      <CakeEditor v-model="form.cakes" v-model:lines="form.lines" :findings="findings" :flaw="flaw" />

      <OrderPictures v-model="form.pictures" />

      <div v-if="stale" class="theirs" role="alert" data-test="stale">
        <b>Somebody changed this order while you had it open.</b> Nothing of yours was written, and what you typed is
        still here.
        <ul>
          <li v-for="f in stale" :key="f.location">
            {{ f.location.replace("body.", "") }} {{ f.message.length < 60 ? f.message : $t("was otherwise") }}, is now
            {{ words(f.value) }}
          </li>
        </ul>
        <v-btn size="small" variant="outlined" data-test="save-over" @click="doItOver">{{
          change.variables.value === "save" ? $t("Save mine over it") : $t("Do it all the same")
        }}</v-btn>
        <v-btn size="small" variant="text" @click="emit('close')">Keep theirs</v-btn>
      </div>
      <p v-else-if="fields.length" class="flaw" role="alert">Not saved yet: look at what is marked in red.</p>
      <ProblemNote v-else :error="change.error.value" />
      <OrderLeaves v-if="leaving && order" :order="order" @left="emit('close')" />
      <footer>
        <SureButton
          v-if="order && order.order.state !== 'cancelled'"
          variant="text"
          color="error"
          test="cancel-order"
          :asks="$t('Cancel {name}?', { name: order.order.name })"
          :yes="$t('Cancel it')"
          :no="$t('Keep it')"
          @sure="change.mutate('cancel')"
        >
          Cancel the order
        </SureButton>
        <v-btn v-if="order?.order.state === 'open'" variant="text" data-test="leaves" @click="leaving = !leaving">
          It leaves…
        </v-btn>
        <div class="grow" />
        <v-btn variant="text" @click="emit('close')">Close</v-btn>
        <v-btn color="primary" type="submit" data-test="save-order" :loading="change.isPending.value">
          {{ order ? $t("Save the change") : $t("Save the order") }}
        </v-btn>
      </footer>
      <p class="quiet">Saving shows what it does to the plan; the benches go on as planned until you accept.</p>
    </form>
  </v-dialog>
</template>

<style scoped>
.form {
  padding: 24px 28px;
  max-height: 92vh;
  overflow: auto;
}
.grid {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
  align-items: start;
  margin: 14px 0 18px;
}
.sides {
  display: grid;
  grid-template-columns: minmax(0, 1.45fr) minmax(0, 1fr);
  gap: 28px;
  align-items: start;
}
.whom {
  margin-bottom: 14px;
}
.promise {
  margin-top: 14px;
}
.flaw {
  color: var(--late);
  font-weight: 600;
}
.theirs {
  margin: 14px 0;
  padding: 12px 16px;
  border-left: 4px solid var(--dust);
  background: var(--dust-wash);
}
footer {
  display: flex;
  gap: 10px;
  margin-top: 18px;
}
@media (max-width: 900px) {
  .sides {
    grid-template-columns: 1fr;
  }
}
@media (max-width: 700px) {
  .grid {
    grid-template-columns: 1fr;
  }
}
</style>
