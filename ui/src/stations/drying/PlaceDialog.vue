<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { ref } from "vue";
import { answered, client, type Schemas, useCommands } from "../../api/client";
import NumberField from "../../parts/NumberField.vue";
import ProblemNote from "../../parts/ProblemNote.vue";

/** A kind of former, rack, rail or box: a new one, or one with another number of slots. */
const props = defineProps<{ shelf?: Schemas["ShelfView"]; places: Schemas["Named"][] }>();
const emit = defineEmits<{ close: [] }>();
const send = useCommands();
const name = ref(props.shelf?.name ?? "");
const slots = ref(props.shelf?.slots ?? 10);
const lies = ref(props.shelf?.in ?? "");
const body = () => ({ name: name.value.trim(), slots: slots.value, ...(lies.value ? { in: lies.value } : {}) });
const done = { onSuccess: () => emit("close") };
const save = useMutation({
  mutationFn: () =>
    send([props.shelf?.id, body()], (header) =>
      answered(
        props.shelf
          ? client.PUT("/api/places/{place}", { params: { header, path: { place: props.shelf.id } }, body: body() })
          : client.POST("/api/places", { params: { header }, body: body() }),
      ),
    ),
  ...done,
});
const remove = useMutation({
  mutationFn: () =>
    send(["remove", props.shelf!.id], (header) =>
      answered(client.DELETE("/api/places/{place}", { params: { header, path: { place: props.shelf!.id } } })),
    ),
  ...done,
});
</script>

<template>
  <form class="sheet opened" data-test="place-dialog" @submit.prevent="save.mutate()">
    <h2>{{ shelf ? shelf.name : $t("Another kind of place") }}</h2>
    <ProblemNote :error="save.error.value ?? remove.error.value" />
    <p>
      <label>name <input v-model="name" class="own" maxlength="80" data-test="place-name" /></label>
    </p>
    <p>
      <label>slots <NumberField whole v-model="slots" data-test="place-slots" /></label>
      <span class="quiet"> cups, trays, rails' lengths: as the recipes count them</span>
    </p>
    <p>
      <label>
        stands in
        <select v-model="lies" class="own">
          <option value="">the room</option>
          <option v-for="p in places" :key="p.id" :value="p.id">{{ p.name }}</option>
        </select>
      </label>
    </p>
    <p v-if="shelf?.madeBy" class="quiet">Homemade, from the recipe “{{ shelf.madeBy }}”: the plan makes them first.</p>
    <footer>
      <v-btn v-if="shelf" variant="text" data-test="place-remove" @click="remove.mutate()">Remove it</v-btn>
      <v-btn variant="text" @click="emit('close')">Leave it</v-btn>
      <v-btn type="submit" color="primary" :disabled="!name.trim() || slots < 1" data-test="place-save">Save</v-btn>
    </footer>
  </form>
</template>
