<script setup lang="ts">
import { useRouteQuery } from "@vueuse/router";
import { useMutation } from "@tanstack/vue-query";
import { computed, ref, watch } from "vue";
import { useRoute } from "vue-router";
import { answered, client, person, Refused, type Schemas, useCommands } from "../../api/client";
import { useDryingRoom, useUndo } from "../../api/queries";
import { lasting, useTimes } from "../../format";
import ProblemNote from "../../parts/ProblemNote.vue";
import FilterBar from "../../parts/FilterBar.vue";
import { useGradually } from "../../parts/gradually";
import StationHead from "../../parts/StationHead.vue";
import AirPanel from "./AirPanel.vue";
import AlertList from "./AlertList.vue";
import PlaceDialog from "./PlaceDialog.vue";
import ShelfBoard from "./ShelfBoard.vue";
import TimerList from "./TimerList.vue";
import { byNext } from "./next";
import TrayDrawer from "./TrayDrawer.vue";
import TrayRow from "./TrayRow.vue";
import { t, word } from "../../words/said";

const { data: room, error } = useDryingRoom();
const times = useTimes();
const send = useCommands();
const undo = useUndo();
// The code of a label leads here with the lot that it hangs on.
const asked = useRoute().query.lot;
const opened = ref("");
const labelled = computed(() =>
  typeof asked === "string" ? room.value?.lying.find((l) => l.lot === asked)?.task : undefined,
);
watch(labelled, (task) => (opened.value ||= task ?? ""), { immediate: true });
const drawn = computed(() => room.value?.lying.find((l) => l.task === opened.value));
const where = (id?: string) => room.value?.places.find((p) => p.id === id)?.name ?? "";

/** The place that is edited; null a new one, undefined none. */
const editing = ref<Schemas["ShelfView"] | null>();

type Found = Schemas["Touched"]["found"];
const wish = ref<{ task: string; found: Found; pieces?: number }>();
const check = useMutation({
  mutationFn: (surely: boolean) =>
    send([wish.value, surely], (header) => {
      const { task, ...found } = wish.value!;
      return answered(
        client.POST("/api/lying/{task}/check", { params: { header, path: { task } }, body: { ...found, surely } }),
      );
    }),
});
const confirmable = computed(
  () => check.error.value instanceof Refused && check.error.value.fields.some((f) => f.location === "body.surely"),
);
function found(task: string, what: Found, pieces?: number) {
  wish.value = { task, found: what, ...(pieces ? { pieces } : {}) };
  check.mutate(false);
}

/** Of many trays it is asked what comes next, of a few where they lie. */
const few = 12;
const typed = useRouteQuery("text", "", { mode: "replace" });
const chosen = useRouteQuery<"place" | "next" | "">("by", "", { mode: "push" });
const by = computed({
  get: () => chosen.value || ((room.value?.lying.length ?? 0) > few ? "next" : "place"),
  set: (so) => (chosen.value = so),
});
const choices = [
  { key: "next" as const, name: t("By what comes next") },
  { key: "place" as const, name: t("By where it lies") },
];
const sought = computed(() => {
  const words = (typed.value ?? "").toLocaleLowerCase().split(/\s+/).filter(Boolean);
  return (room.value?.lying ?? []).filter((l) =>
    words.every((w) => [l.name, l.mix, l.wait, l.nextBy, l.nextName].join(" ").toLocaleLowerCase().includes(w)),
  );
});
const coming = computed(() => {
  const now = room.value?.now ?? 0;
  const minutesOfDay = times.value.clockMinutes(now);
  return byNext(sought.value, now, now - minutesOfDay + 1440);
});
const drawnTrays = useGradually(() => sought.value.length);
const laid = computed(() => {
  let left = drawnTrays.value;
  return coming.value.flatMap((g) => {
    const drawn = g.trays.slice(0, left);
    left -= drawn.length;
    return drawn.length ? [{ ...g, drawn }] : [];
  });
});

/** Boards with what lies on them; the empty ones come last, without trays. */
const boards = computed(() => {
  const lying = sought.value;
  return (room.value?.shelves ?? [])
    .map((shelf) => ({
      shelf,
      trays: lying.filter((l) => (shelf.machine ? l.machine === shelf.id : l.holds.some((h) => h.place === shelf.id))),
    }))
    .sort((a, b) => rank(a.trays) - rank(b.trays));
});
const rank = (trays: Schemas["LyingCard"][]) =>
  trays.length ? Math.min(...trays.map((t) => (room.value?.lying ?? []).indexOf(t))) : 1000;
const empty = computed(() => boards.value.filter((b) => !b.trays.length));
/** What lies in no place of the studio is on the bench. */
const taken = computed(() => {
  const loose = sought.value.filter((l) => !l.holds.length && !l.machine);
  return [...boards.value.filter((b) => b.trays.length), ...(loose.length ? [{ shelf: undefined, trays: loose }] : [])];
});
const frees = computed(() =>
  (room.value?.shelves ?? [])
    .flatMap((s) => s.taken.map((t) => ({ shelf: s.name, ...t })))
    .filter((t) => t.until <= (room.value?.now ?? 0) + 480)
    .sort((a, b) => a.until - b.until)
    .slice(0, 6),
);
/** What the coming air costs most, and what a machine would save. */
const costs = computed(() =>
  (room.value?.lying ?? [])
    .filter((l) => l.damp >= 30)
    .sort((a, b) => b.damp - a.damp)
    .slice(0, 2)
    .map((l) => ({ ...l, machine: l.machines.toSorted((a, b) => a.dry - b.dry)[0] })),
);
const machineName = (id: string) => room.value?.shelves.find((s) => s.id === id)?.name.toLowerCase();
</script>

<template>
  <div class="station">
    <StationHead
      title="Drying room"
      :says="$t('{n} thing lies drying or resting | {n} things lie drying or resting', room?.lying.length ?? 0)"
    >
      <p class="quiet starting">Times are this studio's starting points; touch decides.</p>
    </StationHead>
    <ProblemNote :error="error ?? check.error.value ?? undo.error.value" />
    <p v-if="confirmable" class="remark">
      <v-btn data-test="surely" @click="check.mutate(true)">It is {{ wish?.found }}</v-btn>
      <v-btn variant="text" @click="check.reset()">Leave it</v-btn>
    </p>
    <p v-if="check.data.value" class="remark done" role="status" data-test="said">
      {{ check.data.value.of }}: {{ word(wish?.found ?? "") }}.
      <button class="bare add" @click="(undo.mutate(check.data.value!.n), check.reset())">Take it back</button>
    </p>
    <p v-if="asked && room && !labelled" class="remark">What this label hung on is not drying any more.</p>
    <AlertList v-if="room" :alerts="room.alerts" :now="room.now" />
    <div class="floor">
      <div v-if="room" class="shelves">
        <p v-if="!room.lying.length" class="sheet empty">
          Nothing is drying. When a task at the bench ends with pieces put down, they lie here.
        </p>
        <FilterBar
          v-if="room.lying.length"
          v-model:text="typed"
          v-model:show="by"
          :choices="choices"
          :placeholder="$t('A part, mix, maker or step')"
          test="drying"
        />
        <template v-if="by === 'next'">
          <section v-for="g in laid" :key="g.name" class="shelf">
            <h2 class="lesser">
              {{ g.name }} <span class="quiet">{{ $t("{n} tray | {n} trays", g.trays.length) }}</span>
            </h2>
            <div class="trays">
              <TrayRow
                v-for="l in g.drawn"
                :key="l.task"
                :lying="l"
                :now="room.now"
                :busy="check.isPending.value || !person"
                @open="opened = l.task"
                @found="(what) => found(l.task, what)"
              />
            </div>
          </section>
        </template>
        <section v-for="b in by === 'place' ? taken : []" :key="b.shelf?.id ?? ''" class="shelf">
          <ShelfBoard v-if="b.shelf" :shelf="b.shelf" :where="where(b.shelf.in)" @edit="editing = b.shelf" />
          <h2 class="lesser" v-else>On the bench</h2>
          <div class="trays">
            <TrayRow
              v-for="l in b.trays"
              :key="l.task"
              :lying="l"
              :now="room.now"
              :busy="check.isPending.value || !person"
              @open="opened = l.task"
              @found="(what) => found(l.task, what)"
            />
          </div>
        </section>
        <section class="shelf emptied">
          <ShelfBoard
            v-for="b in empty"
            :key="b.shelf.id"
            :shelf="b.shelf"
            :where="where(b.shelf.in)"
            @edit="editing = b.shelf"
          />
          <button class="bare add" data-test="add-place" @click="editing = null">Another kind of place…</button>
        </section>
      </div>
      <aside>
        <TrayDrawer
          v-if="drawn && room"
          :key="drawn.task"
          :lying="drawn"
          :room="room"
          @close="opened = ''"
          @found="(what, pieces) => found(drawn!.task, what, pieces)"
        />
        <AirPanel />
        <section v-if="costs.length" class="sheet note" data-test="costs">
          <h2 class="lesser">What the air will do</h2>
          <p v-for="c in costs" :key="c.task">
            The coming damp costs {{ c.name.toLowerCase() }} <b>{{ lasting(c.damp) }}</b><template v-if="c.machine"
              >; in the {{ machineName(c.machine.machine) }} it would be dry by
              <b>{{ times.moment(c.machine.dry) }}</b></template
            >.
          </p>
        </section>
        <TimerList v-if="room" :timers="room.timers" :now="room.now" />
        <section v-if="frees.length" class="sheet note">
          <h2 class="lesser">Free soon</h2>
          <p v-for="f in frees" :key="f.task + f.shelf">
            <b>{{ times.clock(f.until) }}</b> {{ f.slots }} × {{ f.shelf.toLowerCase() }}
            <span class="quiet">{{ f.of.toLowerCase() }}</span>
          </p>
        </section>
      </aside>
    </div>
    <v-dialog
      :model-value="editing !== undefined"
      :aria-label="editing?.name ?? $t('A new place')"
      max-width="620"
      @update:model-value="editing = undefined"
    >
      <PlaceDialog v-if="room && editing !== undefined" :place="editing?.id" @close="editing = undefined" />
    </v-dialog>
  </div>
</template>

<style scoped>
.starting {
  margin: 0;
  max-width: 260px;
  text-align: right;
}
.floor {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 340px;
  gap: 18px;
  align-items: start;
}
.shelf {
  display: grid;
  grid-template-columns: 140px minmax(0, 1fr);
  gap: 12px;
  padding: 12px 0 14px;
  border-bottom: 5px solid var(--vein);
}
.trays {
  display: grid;
  gap: 8px;
}
.emptied {
  grid-template-columns: repeat(auto-fill, minmax(170px, 1fr));
  gap: 16px;
}
aside {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 12px;
}
aside :deep(.drawer p) {
  margin: 7px 0;
}
aside :deep(.drawer) {
  position: relative;
  padding: 16px 18px;
  background: var(--sheet);
  border: 1px solid var(--ink);
  border-radius: 3px 14px 3px 14px;
}
.note {
  padding: 12px 16px;
}
.note p {
  margin: 5px 0;
}
.done {
  background: var(--leaf-wash);
  border-color: var(--leaf);
}
@media (max-width: 1100px) {
  .floor,
  .shelf:not(.emptied) {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
