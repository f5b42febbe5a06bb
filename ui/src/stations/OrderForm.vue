<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { computed, reactive, ref } from "vue";
import { answered, client, type OrderView, Refused, type Schemas, useCommands } from "../api/client";
import { useStudio } from "../api/queries";
import { typed } from "../number";
import ProblemNote from "../parts/ProblemNote.vue";
import OrderLeaves from "./OrderLeaves.vue";
import { t, word } from "../words/said";

/** Entering, changing or cancelling one order. What was typed stays until it is saved. */
const props = defineProps<{ order?: OrderView }>();
const emit = defineEmits<{ close: [] }>();
const { data: studio } = useStudio();

const flower = (recipe: string) => studio.value?.flowers.find((f) => f.id === recipe);
const variants = (recipe: string) => flower(recipe)?.variants ?? [];

/** What a line names, taken apart: a variant of the flower and schools of its techniques. */
function taken(named = ""): { variant: string; otherwise: string[] } {
  const parts = named.split(" · ");
  const own = !parts[0]!.includes(": ");
  return { variant: own ? parts[0]! : "", otherwise: own ? parts.slice(1) : parts };
}

const from = props.order?.order;
const form = reactive({
  name: from?.name ?? "",
  occasion: from?.occasion ?? "",
  leaves: from?.leaves ?? "",
  leaving: from?.leaving ?? "collected",
  importance: String(from?.importance ?? 10),
  allergies: from?.allergies.join(", ") ?? "",
  state: from?.state ?? "open",
  lines: (
    from?.lines ?? [{ id: "", recipe: "", colourway: "", quantity: 0, serviceLevelPerMille: 0, variant: undefined }]
  ).map((l) => ({
    id: l.id || undefined,
    recipe: l.recipe,
    ...taken(l.variant),
    colourway: l.colourway,
    quantity: l.quantity ? String(l.quantity) : "",
    serviceLevelPerMille: l.serviceLevelPerMille || undefined,
  })),
});
const seen = ref(props.order?.version ?? 0);

function body(): Schemas["OrderBody"] {
  return {
    name: form.name,
    occasion: form.occasion,
    leaves: form.leaves,
    leaving: form.leaving,
    importance: typed(form.importance),
    allergies: form.allergies
      .split(",")
      .map((a) => a.trim())
      .filter(Boolean),
    state: form.state === "quote" ? "quote" : "open",
    lines: form.lines.map(({ otherwise, ...l }) => ({
      ...l,
      variant: [l.variant, ...otherwise].filter(Boolean).join(" · ") || undefined,
      quantity: typed(l.quantity),
    })),
  };
}

type Action = "save" | "cancel";
const leaving = ref(false);

const send = useCommands();
const change = useMutation({
  mutationFn: (action: Action) =>
    send([action, seen.value, body()], async (header) => {
      if (!props.order) return answered(client.POST("/api/orders", { params: { header }, body: body() }));
      const params = { path: { id: props.order.order.id }, header: { ...header, "If-Match": seen.value } };
      if (action === "cancel") return answered(client.POST("/api/orders/{id}/cancel", { params }));
      return answered(client.PUT("/api/orders/{id}", { params, body: body() }));
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
  <v-dialog :model-value="true" max-width="760" persistent @keydown.esc="emit('close')">
    <form class="sheet form" data-test="order-form" @submit.prevent="change.mutate('save')">
      <h2>{{ order ? $t("Order {name}", { name: order.order.name }) : $t("A new order") }}</h2>
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
        <v-text-field v-model="form.allergies" label="Allergies, with commas" name="allergies" />
      </div>
      <h3>Flowers</h3>
      <p v-if="flaw('lines')" class="flaw">{{ flaw("lines") }}</p>
      <div v-for="(l, i) in form.lines" :key="i" class="line">
        <v-text-field
          v-model="l.quantity"
          label="How many"
          :name="`quantity-${i}`"
          inputmode="numeric"
          :error-messages="flaw(`lines[${i}].quantity`)"
        />
        <v-select
          v-model="l.recipe"
          label="Flower"
          :data-test="`flower-${i}`"
          :items="studio?.flowers.filter((f) => f.latest || f.id === l.recipe)"
          item-title="name"
          item-value="id"
          :error-messages="flaw(`lines[${i}].recipe`)"
        />
        <v-select
          v-if="variants(l.recipe).length"
          v-model="l.variant"
          label="Variant"
          :data-test="`variant-${i}`"
          :items="[{ title: $t('as it is'), value: '' }, ...variants(l.recipe).map((v) => ({ title: v, value: v }))]"
          :error-messages="flaw(`lines[${i}].variant`)"
        />
        <span v-else />
        <v-select
          v-model="l.colourway"
          label="Colourway"
          :data-test="`colourway-${i}`"
          :items="[
            ...(flower(l.recipe)?.colours[''] ? [{ id: '', name: $t('its own colours') }] : []),
            ...(studio?.colourways ?? []),
          ]"
          item-title="name"
          item-value="id"
          :error-messages="flaw(`lines[${i}].colourway`)"
          no-data-text="There is no colourway yet: write one in the flower book"
        />
        <v-select
          v-if="flower(l.recipe)?.otherwise.length"
          v-model="l.otherwise"
          class="otherwise"
          label="Made otherwise than the book says"
          multiple
          :data-test="`otherwise-${i}`"
          :items="flower(l.recipe)?.otherwise"
        />
        <button type="button" class="bare" aria-label="Remove this line" @click="form.lines.splice(i, 1)">✕</button>
      </div>
      <button
        type="button"
        class="bare add"
        data-test="add-line"
        @click="
          form.lines.push({
            id: undefined,
            recipe: '',
            colourway: '',
            quantity: '',
            serviceLevelPerMille: undefined,
            variant: '',
            otherwise: [],
          })
        "
      >
        Add a flower
      </button>

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
        <v-btn
          v-if="order && order.order.state !== 'cancelled'"
          variant="text"
          color="error"
          data-test="cancel-order"
          @click="change.mutate('cancel')"
        >
          Cancel the order
        </v-btn>
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
.line {
  display: grid;
  grid-template-columns: 148px 1.2fr 0.8fr 1fr 24px;
  gap: 10px;
  margin: 8px 0;
  align-items: start;
}
.line .otherwise {
  grid-column: 2 / 5;
  grid-row: 2;
}
.add {
  color: var(--leaf);
  font-weight: 650;
  padding: 6px 0;
}
.flaw {
  color: #a32740;
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
@media (max-width: 700px) {
  .grid {
    grid-template-columns: 1fr;
  }
}
</style>
