<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { computed, reactive, ref, watch } from "vue";
import { useRouter } from "vue-router";
import { answered, client, person, type Schemas, useCommands } from "../../api/client";
import { useOrders, useScenes, useStudio, useWorkshop } from "../../api/queries";
import { money, useTimes, worked } from "../../format";
import { manner } from "../../manner";
import DearNote from "../../parts/DearNote.vue";
import ProblemNote from "../../parts/ProblemNote.vue";
import StationHead from "../../parts/StationHead.vue";
import { t } from "../../words/said";
import { momentIn } from "../studio/moment";
import { changeOf, type If, kinds, linesOf, type Option, said } from "./kinds";
import OrdersBeside from "./OrdersBeside.vue";

/** What would be if: any number of changes, tried beside the plan, kept by name, dropped, made real. */
const times = useTimes();
const router = useRouter();
const { data: studio } = useStudio();
const { data: shop } = useWorkshop();
const { data: orders } = useOrders();
const { data: kept } = useScenes();

const options = (of: { id: string; name: string }[] = []): Option[] => of.map((o) => ({ title: o.name, value: o.id }));
const flower = (recipe: string) => studio.value?.flowers.find((f) => f.id === recipe)?.name ?? "";
const all = computed(() =>
  kinds({
    people: options(shop.value?.people),
    places: options(shop.value?.places),
    machines: options(shop.value?.machines),
    tools: options(shop.value?.tools),
    suppliers: options(shop.value?.suppliers),
    materials: options(shop.value?.materials),
    skills: (shop.value?.skills ?? []).map((s) => ({ title: s, value: s })),
    orders: options((orders.value ?? []).filter((o) => o.order.state === "open").map((o) => o.order)),
    lines: linesOf(orders.value ?? [], flower),
    colourways: options(studio.value?.colourways),
  }),
);
const moment = computed(() => momentIn(studio.value?.epoch ?? "1970-01-01T00:00:00Z", studio.value?.zone ?? "UTC"));
const kind = ref("");
const typed = reactive<Record<string, string>>({});
watch(kind, () => Object.keys(typed).forEach((key) => delete typed[key]));
const asks = computed(() => all.value[kind.value]?.asks ?? []);
const next = computed(() => changeOf(kind.value, asks.value, typed, moment.value.kept));
const words = (c: If) => said(c, all.value[c.kind]?.asks ?? [], all.value[c.kind]?.title ?? c.kind, times.value);

const changes = ref<If[]>([]);
const scene = ref<Schemas["Scene"]>();
const name = ref("");
function add() {
  if (!next.value) return;
  changes.value = [...changes.value, next.value];
  kind.value = "";
}
function open(s?: Schemas["Scene"]) {
  scene.value = s;
  name.value = s?.name ?? "";
  changes.value = [...(s?.changes ?? [])];
}

const look = useMutation({
  mutationFn: () => answered(client.POST("/api/scenes/try", { body: { changes: changes.value } })),
});
watch(changes, (now) => (now.length ? look.mutate() : look.reset()));
const beside = computed(() => (changes.value.length ? look.data.value : undefined));

const send = useCommands();
const keep = useMutation({
  mutationFn: () => {
    const id = scene.value?.id ?? crypto.randomUUID();
    const body = { name: name.value.trim(), changes: changes.value };
    return send([id, body], (header) =>
      answered(
        client.PUT("/api/scenes/{id}", {
          params: { path: { id }, header: { ...header, "If-Match": scene.value?.version ?? 0 } },
          body,
        }),
      ),
    ).then((entered) => (scene.value = { id, version: entered.version, ...body }));
  },
});
const drop = useMutation({
  mutationFn: (s: Schemas["Scene"]) =>
    send(["drop", s.id], (header) =>
      answered(
        client.POST("/api/scenes/{id}/drop", {
          params: { path: { id: s.id }, header: { ...header, "If-Match": s.version } },
        }),
      ),
    ),
  onSuccess: () => open(),
});
const real = useMutation({
  mutationFn: () =>
    send(["real", changes.value], (header) =>
      answered(client.POST("/api/scenes/real", { params: { header }, body: { changes: changes.value } })),
    ),
  onSuccess: () => void router.push("/orders"),
});
/** Air, suppliers and prices are nobody's to decide. */
const decided = computed(() => beside.value?.decided ?? false);
const error = computed(() => look.error.value ?? keep.error.value ?? drop.error.value ?? real.error.value);
const sums = computed(() => {
  const b = beside.value;
  if (!b || !manner.value.money) return [];
  return [
    { name: t("hours"), was: b.was.labour + b.was.house, is: b.is.labour + b.is.house },
    { name: t("materials"), was: b.was.materials, is: b.is.materials },
    { name: t("together"), was: b.was.total, is: b.is.total },
  ].map((s) => ({ ...s, was: money(s.was), is: money(s.is) }));
});
</script>

<template>
  <div class="station">
    <StationHead title="What if" says="Any number of things otherwise, beside the plan. Nothing is touched." />
    <div class="two">
      <section class="sheet says">
        <form @submit.prevent="add">
          <v-select
            v-model="kind"
            label="What if"
            data-test="if-kind"
            :items="Object.entries(all).map(([value, k]) => ({ value, title: k.title }))"
          />
          <template v-for="a in asks" :key="a.key">
            <v-select
              v-if="a.among"
              v-model="typed[a.key]"
              :label="a.label"
              :items="a.among"
              :data-test="`if-${a.key}`"
            />
            <v-text-field
              v-else
              v-model="typed[a.key]"
              :label="a.label"
              :name="`if-${a.key}`"
              :type="
                ['from', 'until'].includes(a.key)
                  ? 'date'
                  : ['leaves', 'begins', 'ends'].includes(a.key)
                    ? 'datetime-local'
                    : 'text'
              "
            />
          </template>
          <v-btn v-if="kind" type="submit" variant="tonal" data-test="if-add" :disabled="!next">Add it</v-btn>
        </form>
        <ul v-if="changes.length" class="ifs">
          <li v-for="(c, i) in changes" :key="i">
            {{ words(c) }}
            <button
              class="bare"
              :aria-label="$t('Without {what}', { what: words(c) })"
              @click="changes = changes.filter((_, n) => n !== i)"
            >
              ✕
            </button>
          </li>
        </ul>
        <template v-if="changes.length">
          <v-text-field v-model="name" label="Kept as" name="scene-name" maxlength="80" />
          <footer>
            <v-btn variant="tonal" data-test="keep-scene" :disabled="!person || !name.trim()" @click="keep.mutate()">
              Keep it
            </v-btn>
            <v-btn
              v-if="decided"
              color="primary"
              data-test="scene-real"
              :disabled="!person || !beside"
              @click="real.mutate()"
            >
              Make it so
            </v-btn>
            <v-btn v-if="scene" variant="text" @click="drop.mutate(scene)">Drop it</v-btn>
          </footer>
          <p v-if="beside && !decided" class="quiet">
            Air, suppliers and prices cannot be decided here; the rest could be made so.
          </p>
        </template>
        <template v-if="kept?.length">
          <h3>Kept</h3>
          <button
            v-for="s in kept"
            :key="s.id"
            class="bare scene"
            :class="{ chosen: scene?.id === s.id }"
            :data-test="`scene-${s.name}`"
            @click="open(s)"
          >
            <b>{{ s.name }}</b> <span class="quiet">{{ $t("{n} change | {n} changes", s.changes.length) }}</span>
          </button>
          <button v-if="scene" class="bare add" @click="open()">Another one</button>
        </template>
      </section>
      <section>
        <ProblemNote :error="error" />
        <DearNote v-if="look.isPending.value" what="Planning it." />
        <p v-if="!changes.length" class="quiet first">
          A damp week, somebody away, more room, an order moved: say what would be otherwise, and what follows stands
          here.
        </p>
        <div v-if="beside" class="result" data-test="scene-result">
          <div>
            <OrdersBeside :orders="beside.orders" :now="studio?.now ?? 0" />
            <p class="quiet">
              {{ $t("{n} task moves | {n} tasks move", beside.moves.moved) }},
              {{ $t("{n} of them within two days", { n: beside.moves.told }) }}.
            </p>
          </div>
          <div class="figures">
            <template v-if="beside.hours.length">
              <h3>Hours</h3>
              <p v-for="h in beside.hours" :key="h.of">
                {{ h.name }} <span class="quiet">{{ worked(h.was) }}</span> <b>{{ worked(h.is) }}</b>
              </p>
            </template>
            <template v-if="beside.buys.length">
              <h3>Packs to buy</h3>
              <p v-for="b in beside.buys" :key="b.of">
                {{ b.name }} <span class="quiet">{{ b.was }}</span> <b>{{ b.is }}</b>
              </p>
            </template>
            <template v-if="sums.length">
              <h3>Cost</h3>
              <p v-for="s in sums" :key="s.name">
                {{ s.name }} <span class="quiet">{{ s.was }}</span> <b>{{ s.is }}</b>
              </p>
            </template>
          </div>
        </div>
      </section>
    </div>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(300px, 360px) minmax(0, 1fr);
  gap: 32px;
  align-items: start;
}
.says {
  padding: 16px 20px;
}
form {
  display: grid;
  gap: 10px;
}
.ifs {
  list-style: none;
  padding: 0;
  margin: 14px 0;
}
.ifs li {
  display: flex;
  justify-content: space-between;
  gap: 8px;
  padding: 6px 0;
  border-top: 1px solid var(--vein);
  font-weight: 600;
}
footer {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-top: 8px;
}
h3 {
  margin-top: 16px;
}
.scene {
  display: block;
  width: 100%;
  text-align: left;
  padding: 8px 10px;
  border-radius: 3px 10px;
}
.scene.chosen {
  background: var(--petal-wash);
}
.add {
  color: var(--leaf);
  font-weight: 650;
  padding: 6px 0;
}
.first {
  font-size: 1.1rem;
}
.result {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 220px;
  gap: 28px;
}
.figures h3:first-child {
  margin-top: 0;
}
.figures p {
  display: grid;
  grid-template-columns: 1fr auto auto;
  gap: 10px;
  margin: 3px 0;
}
@media (max-width: 1080px) {
  .two,
  .result {
    grid-template-columns: 1fr;
  }
}
</style>
