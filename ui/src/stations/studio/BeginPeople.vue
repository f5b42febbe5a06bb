<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { v7 } from "uuid";
import { ref } from "vue";
import { answered, client, person, type Schemas, useCommands } from "../../api/client";
import ProblemNote from "../../parts/ProblemNote.vue";
import { fresh } from "./sheets";
import UsualWeek from "./UsualWeek.vue";
import WeekStrip from "./WeekStrip.vue";

/** Who works here: name, what they can do, when they usually come. One person alone is a studio. */
const props = defineProps<{ shop: Schemas["WorkshopView"] }>();
const send = useCommands();
type Person = Schemas["Person"];
const skill = (name: string) => ({ skill: name, paceHundredths: 100 });
const anew = (): Person => ({
  ...(fresh.people!() as unknown as Person),
  id: v7(),
  skills: props.shop.skills.map(skill),
});
const draft = ref<Person>(anew());
const known = (id: string) => props.shop.people.find((p) => p.id === id);
const edit = (p: Person) => (draft.value = JSON.parse(JSON.stringify(p)) as Person);
function toggle(name: string) {
  const has = draft.value.skills.filter((s) => s.skill !== name);
  draft.value.skills = has.length < draft.value.skills.length ? has : [...has, skill(name)];
}
const write = useMutation({
  mutationFn: () => {
    const path = { kind: "people", id: draft.value.id };
    const was = known(draft.value.id);
    const body = { ...(was && { was }), is: draft.value } as never;
    return send([path, body], (header) =>
      answered(client.PUT("/api/workshop/{kind}/{id}", { params: { header, path }, body })),
    );
  },
  onSuccess: () => (draft.value = anew()),
});
</script>

<template>
  <div class="known">
    <button
      v-for="p in shop.people"
      :key="p.id"
      class="card"
      :class="{ here: p.id === draft.id }"
      :data-test="`begun-${p.name}`"
      @click="edit(p)"
    >
      <b>{{ p.name }}</b>
      <WeekStrip :person="p" />
      <small>{{ p.skills.map((s) => s.skill).join(", ") }}</small>
    </button>
  </div>
  <form class="sheet form" @submit.prevent="write.mutate()">
    <h2>{{ known(draft.id) ? $t("{name} works so", { name: draft.name }) : $t("Somebody else") }}</h2>
    <label class="name">called <input v-model="draft.name" class="own" maxlength="80" name="person-name" /></label>
    <p>
      can do
      <button
        v-for="s in shop.skills"
        :key="s"
        type="button"
        class="toggle"
        :class="{ on: draft.skills.some((has) => has.skill === s) }"
        :aria-pressed="draft.skills.some((has) => has.skill === s)"
        :data-test="`can-${s}`"
        @click="toggle(s)"
      >
        {{ s }}
      </button>
    </p>
    <UsualWeek
      :key="draft.id"
      :model-value="{ hours: draft.hours, breaks: draft.breaks }"
      @update:model-value="draft = { ...draft, ...$event }"
    />
    <p class="quiet">
      Everybody works at the pace of the recipes until the record says otherwise; pace, further hours, shifts and days
      away are on their sheet in Studio.
    </p>
    <ProblemNote :error="write.error.value" />
    <v-btn type="submit" color="primary" :disabled="!draft.name.trim() || !person" data-test="person-add">
      {{ known(draft.id) ? $t("Change it so") : $t("Add {name}", { name: draft.name || "…" }) }}
    </v-btn>
  </form>
</template>

<style scoped>
.known {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  margin-bottom: 14px;
}
.card {
  display: grid;
  gap: 3px;
  padding: 10px 14px;
  text-align: left;
  font: 500 1rem var(--count);
  color: var(--ink);
  background: var(--sheet);
  border: 1.5px solid var(--vein);
  border-radius: 3px 16px;
  cursor: pointer;
}
.card.here {
  border-color: var(--leaf);
}
.card b {
  font: 560 1.25rem var(--name);
}
small {
  color: var(--soft);
  max-width: 15rem;
}
.form {
  padding: 16px 22px;
}
.name input {
  font-size: 1.15rem;
}
</style>
