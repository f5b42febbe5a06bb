<script setup lang="ts">
import { useMutation, useQuery } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { answered, client, Refused, type Schemas, sitDown } from "../../api/client";
import ProblemNote from "../../parts/ProblemNote.vue";
import { dayName, weekdays } from "./days";
import UsualWeek from "./UsualWeek.vue";

/** An empty folder: a studio is begun, taken in from a file, or the demo is looked at. */
const { data: beginning } = useQuery({
  queryKey: ["beginning"],
  queryFn: () => answered(client.GET("/api/beginning")),
});
const way = ref<"" | "own">("");
const name = ref("");
const me = ref("");
const zone = ref(Intl.DateTimeFormat().resolvedOptions().timeZone);
const zones = Intl.supportedValuesOf("timeZone");
const book = ref(true);
const week = ref<Pick<Schemas["Person"], "hours" | "breaks">>({
  hours: weekdays.slice(0, 5).map((day) => ({ day: day as "monday", from: "09:00", to: "17:00" })),
  breaks: [{ from: "12:30", to: "13:00" }],
});
const mass = ref<"g" | "oz">("g");
const length = ref<"mm" | "in">("mm");
const begins = ref<"monday" | "sunday">("monday");
const clock = ref<"24" | "12">(
  new Intl.DateTimeFormat(undefined, { hour: "numeric" }).resolvedOptions().hour12 ? "12" : "24",
);
const currency = ref("");
const currencies = Intl.supportedValuesOf("currency");
const decimal = ref((1.5).toLocaleString().includes(",") ? "," : ".");
/** Everything here is read anew: until now there was nothing. */
const enter = async (to = "/studio") => {
  try {
    const studio = await answered(client.GET("/api/studio"));
    if (studio.people.length === 1) sitDown(studio.people[0]!.id);
  } catch (error) {
    if (!(error instanceof Refused)) throw error; // a backup whose people sign in: the page asks them to
  }
  location.assign(to);
};
const begin = useMutation({
  mutationFn: () =>
    answered(
      client.POST("/api/beginning", {
        body: {
          name: name.value.trim(),
          zone: zone.value,
          book: book.value,
          person: me.value.trim(),
          skills: beginning.value?.skills ?? [],
          hours: week.value.hours!,
          breaks: week.value.breaks!,
          manner: {
            mass: mass.value,
            length: length.value,
            decimal: decimal.value,
            week: begins.value,
            clock: clock.value,
            ...(currency.value && { money: currency.value }),
          },
        },
      }),
    ),
  onSuccess: () => enter("/beginning/people"),
});
const take = useMutation({
  mutationFn: (file: File) =>
    answered(
      client.POST("/api/beginning/file", {
        body: file as never,
        bodySerializer: (raw) => raw as never,
        headers: { "Content-Type": "application/octet-stream" },
      }),
    ),
  onSuccess: () => enter("/orders"),
});
const look = useMutation({
  mutationFn: () => answered(client.POST("/api/beginning/look", {})),
  onSuccess: ({ address }) => location.assign(address),
});
const flaws = computed(() => (take.error.value instanceof Refused ? take.error.value.fields.slice(0, 6) : []));
const ready = computed(() => name.value.trim() && me.value.trim() && zone.value);
const flowers = computed(() => beginning.value?.flowers ?? []);
</script>

<template>
  <div class="station begin" data-test="begin">
    <h1>This studio is empty</h1>
    <p class="lead">
      Nothing is kept here yet. Begin with what a first plan needs; everything can be changed later, and left at any
      moment.
    </p>
    <div v-if="!way" class="ways">
      <button class="way" data-test="begin-own" @click="way = 'own'">
        <b>Start a studio</b>
        <span>Its name, where it is, and you. Then people, places, cupboard and flowers, in your own order.</span>
      </button>
      <label class="way">
        <b>Take in a studio file or a backup</b>
        <span
          >A studio document, as another Bractum gives it out, or a backup with all that was recorded: the same studio
          opens here.</span
        >
        <input
          type="file"
          accept=".json,.bractum,.db"
          data-test="begin-file"
          @change="
            ($event.target as HTMLInputElement).files?.[0] &&
            take.mutate(($event.target as HTMLInputElement).files![0]!)
          "
        />
      </label>
      <button v-if="beginning?.look" class="way" data-test="begin-look" @click="look.mutate()">
        <b>Look round the demo</b>
        <span>Pellowen Yard, an invented studio, opens at an address of its own. Nothing of it is kept here.</span>
      </button>
    </div>
    <form v-else class="sheet beginning" @submit.prevent="begin.mutate()">
      <h2>Start a studio</h2>
      <div class="grid">
        <label
          >The studio is called <input v-model="name" class="own-field" maxlength="80" data-test="own-name"
        /></label>
        <label>You are called <input v-model="me" class="own-field" maxlength="80" data-test="own-me" /></label>
        <label>
          It is in the time zone
          <input v-model="zone" class="own-field" list="zones" data-test="own-zone" />
          <datalist id="zones"><option v-for="z in zones" :key="z" :value="z" /></datalist>
        </label>
      </div>
      <fieldset>
        <legend>You usually work</legend>
        <UsualWeek v-model="week" />
        <p class="quiet">
          You can do {{ (beginning?.skills ?? []).join(", ") }}, at the pace of the recipes; both can be changed.
        </p>
      </fieldset>
      <fieldset>
        <legend>You measure and reckon</legend>
        <label>
          masses in
          <select v-model="mass" class="own" data-test="own-mass">
            <option value="g">grams</option>
            <option value="oz">ounces</option>
          </select>
        </label>
        <label>
          lengths in
          <select v-model="length" class="own" data-test="own-length">
            <option value="mm">millimetres</option>
            <option value="in">inches</option>
          </select>
        </label>
        <label>
          with a decimal
          <select v-model="decimal" class="own" data-test="own-decimal">
            <option value=".">point</option>
            <option value=",">comma</option>
          </select>
        </label>
        <label>
          a week begins on
          <select v-model="begins" class="own" data-test="own-week">
            <option value="monday">{{ dayName("monday", "long") }}</option>
            <option value="sunday">{{ dayName("sunday", "long") }}</option>
          </select>
        </label>
        <label>
          hours
          <select v-model="clock" class="own" data-test="own-clock">
            <option value="24">14:00</option>
            <option value="12">2:00 pm</option>
          </select>
        </label>
        <label>
          money in
          <select v-model="currency" class="own" data-test="own-money">
            <option value="">no currency</option>
            <option v-for="c in currencies" :key="c" :value="c">{{ c }}</option>
          </select>
        </label>
      </fieldset>
      <fieldset>
        <legend>Your flower book begins</legend>
        <label class="choice">
          <input v-model="book" type="radio" :value="true" data-test="own-book" />
          <span
            ><b>with {{ flowers.length }} flowers</b>, and the formers, tools and materials that they ask for:
            {{ flowers.join(", ") }}.</span
          >
        </label>
        <label class="choice">
          <input v-model="book" type="radio" :value="false" data-test="own-empty" />
          <span
            ><b>empty</b>: only pastes and how they dry. Each flower begins from its method, or comes in a file.</span
          >
        </label>
      </fieldset>
      <ProblemNote :error="begin.error.value" />
      <footer>
        <v-btn variant="text" @click="way = ''">Another way</v-btn>
        <span class="grow" />
        <v-btn type="submit" color="primary" :disabled="!ready || begin.isPending.value" data-test="own-begin">
          Open the studio
        </v-btn>
      </footer>
    </form>
    <ProblemNote :error="take.error.value ?? look.error.value" />
    <ul v-if="flaws.length">
      <li v-for="f in flaws" :key="f.location">{{ f.location.replace("body.", "") }} {{ f.message }}</li>
    </ul>
  </div>
</template>

<style scoped>
.begin {
  max-width: 1000px;
  padding-top: 40px;
}
.lead {
  font-size: 1.15rem;
  max-width: 46rem;
}
.ways {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(250px, 1fr));
  gap: 16px;
  margin-top: 20px;
}
.way {
  display: grid;
  gap: 8px;
  align-content: start;
  padding: 22px;
  min-height: 170px;
  font: 400 1.05rem var(--count);
  color: var(--ink);
  text-align: left;
  background: var(--sheet);
  border: 1.5px solid var(--vein);
  border-radius: 3px 22px;
  cursor: pointer;
}
.way:hover,
.way:focus-within {
  border-color: var(--leaf);
}
.way b {
  font: 560 1.4rem var(--name);
}
.beginning {
  padding: 20px 26px;
  margin-top: 12px;
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(230px, 1fr));
  gap: 14px;
}
.own-field {
  display: block;
  width: 100%;
  font: 400 1.15rem var(--count);
  padding: 8px 10px;
  border: 1.5px solid var(--ink);
  border-radius: 3px 12px;
  background: var(--field);
  color: var(--ink);
}
fieldset {
  border: 0;
  padding: 0;
  margin: 18px 0 0;
}
legend {
  font: 560 1.1rem var(--name);
  margin-bottom: 6px;
}
fieldset label {
  margin-right: 10px;
}
.choice {
  display: flex;
  gap: 10px;
  align-items: baseline;
  margin: 0 0 8px;
}
footer {
  display: flex;
  margin-top: 16px;
}
</style>
