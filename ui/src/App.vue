<script setup lang="ts">
import { useQueryClient } from "@tanstack/vue-query";
import { useEventListener, useTimeoutFn } from "@vueuse/core";
import { computed, defineAsyncComponent, ref, watch } from "vue";
import { useRoute, useRouter } from "vue-router";
import { Refused } from "./api/client";
import { letIn, newer } from "./api/installed";
import { following } from "./api/live";
import { manner } from "./manner";
import { waiting } from "./api/outbox";
import { mayGive, useAccess } from "./api/access";
import { useProposal, useStudio } from "./api/queries";
import ClockControl from "./parts/ClockControl.vue";
import HealthNote from "./parts/HealthNote.vue";
import PersonChooser from "./parts/PersonChooser.vue";
import ProblemNote from "./parts/ProblemNote.vue";
import { learn } from "./words/language";
import { stations } from "./stations/stations";
import { light, turn } from "./theme/light";
import { word } from "./words/said";

const PaperFoot = defineAsyncComponent(() => import("./stations/bench/PaperFoot.vue"));
const FindAnything = defineAsyncComponent(() => import("./parts/FindAnything.vue"));
const JournalDrawer = defineAsyncComponent(() => import("./parts/JournalDrawer.vue"));
const SignInPage = defineAsyncComponent(() => import("./parts/SignInPage.vue"));
/** Only at the beginning. */
const BeginPage = defineAsyncComponent(() => import("./stations/studio/BeginPage.vue"));
const FirstPlan = defineAsyncComponent(() => import("./stations/studio/FirstPlan.vue"));
const { data: access } = useAccess();
/** People sign in here, and nobody has in this browser. */
/** The stations that are of use to whoever has come in. */
const open = computed(() => stations.filter((s) => mayGive(access.value, s.needs)));
const outside = computed(() => !!access.value?.locked && !access.value.kind);
const { data: studio, error: failed } = useStudio();
/** No studio is begun here yet. */
const empty = computed(() => failed.value instanceof Refused && failed.value.status === 409);
const error = computed(() => (empty.value || outside.value ? undefined : failed.value));
/** Somebody was signed out elsewhere, or their time is over. */
watch(
  () => failed.value instanceof Refused && failed.value.status === 401,
  (out) => out && void queries.invalidateQueries({ queryKey: ["access"] }),
);
const { data: proposal } = useProposal();
const route = useRoute();
const router = useRouter();
const queries = useQueryClient();
const journal = ref(false);
/** Fetched when it is first opened. */
const journalSeen = ref(false);
watch(journal, () => (journalSeen.value = true));
const unsent = computed(() => waiting.value.filter((k) => !k.refused).length);
watch(
  () => studio.value?.manner,
  (says) => (manner.value = says ?? {}),
  { immediate: true },
);
watch(
  () => studio.value && (studio.value.manner.language ?? ""),
  (language) => void (language !== undefined && learn(language).catch(() => {})),
);
/** Said only once it takes longer than a moment. */
const slow = ref(false);
watch(
  () => studio.value?.behind,
  (behind, _, onCleanup) => {
    if (!behind) return (slow.value = false);
    onCleanup(useTimeoutFn(() => (slow.value = true), 700).stop);
  },
);
const keys = ref(false);
const finding = ref(false);
/** Fetched when it is first opened. */
const findingSeen = ref(false);
watch(finding, () => (findingSeen.value = true));

function press(event: KeyboardEvent) {
  const target = event.target as HTMLElement;
  if (empty.value || outside.value) return;
  if ((event.ctrlKey || event.metaKey) && event.key === "k") {
    event.preventDefault();
    finding.value = true;
  }
  if (
    event.defaultPrevented ||
    event.ctrlKey ||
    event.metaKey ||
    event.altKey ||
    /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName)
  )
    return;
  if (event.key === "?") keys.value = true;
  if (event.key === "/") {
    event.preventDefault();
    finding.value = true;
  }
  if (event.key === "j") journal.value = true;
  const station = open.value.find((s) => s.key === event.key);
  if (station) void router.push(station.path);
}
useEventListener("keydown", press);
</script>

<template>
  <v-app>
    <header class="stem no-print">
      <div class="house">
        <img src="/bud.svg" alt="" width="30" height="30" />
        <span :title="studio?.name">{{ studio?.name ?? "Bractum" }}</span>
      </div>
      <nav v-if="!empty && !outside" aria-label="Stations">
        <RouterLink
          v-for="(s, i) in open"
          :key="s.path"
          :to="s.path"
          :class="{
            here: route.path === s.path || route.path.startsWith(`${s.path}/`),
            begins: s.group !== open[i - 1]?.group,
          }"
        >
          <span v-if="s.group !== open[i - 1]?.group" class="group">{{ word(s.group) }}</span>
          {{ s.name }}
          <span v-if="s.path === '/orders' && proposal?.waits" class="awaits" title="a plan awaits acceptance" />
        </RouterLink>
      </nav>
      <template v-if="!empty && !outside">
        <span class="twin">
          <button
            class="bare log"
            data-test="open-find"
            :title="$t('Find anything: the key /')"
            @click="finding = true"
          >
            <svg width="19" height="19" viewBox="0 0 20 20" :aria-label="$t('Find anything')" role="img">
              <path d="M12.5 12.5 18 18M8 3a5 5 0 1 0 0 10A5 5 0 0 0 8 3z" />
            </svg>
          </button>
          <button
            class="bare log"
            data-test="turn-light"
            :aria-label="light === 'evening' ? $t('By morning light') : $t('By evening light')"
            :title="light === 'evening' ? $t('By morning light') : $t('By evening light')"
            @click="turn()"
          >
            <svg width="19" height="19" viewBox="0 0 20 20" aria-hidden="true">
              <path v-if="light === 'evening'" d="M2 15h16M5 15a5 5 0 0 1 10 0M10 3v3M3.5 7l2 2M16.5 7l-2 2" />
              <path v-else d="M7 9h6l2 5H5zM10 9V3M8 17h4" />
            </svg>
          </button>
        </span>
        <button class="bare log" data-test="journal" @click="journal = true">Take back…</button>
        <PersonChooser />
      </template>
      <span v-if="slow" class="working" role="status" data-test="behind">the plan is being worked out</span>
      <ClockControl v-if="!outside" />
    </header>
    <p v-if="newer" class="cut" role="status">
      A newer Bractum is here. <button class="bare add" @click="letIn()">Let it in</button>
    </p>
    <HealthNote v-if="!empty && !outside" />
    <p v-if="following === 'lost' && !empty && !outside" class="cut" role="status">
      The connection is lost; what you see may be old. Nothing you recorded is lost<template v-if="unsent"
        >: {{ $t("{n} thing waits | {n} things wait", unsent) }} here to be sent</template
      >.
    </p>
    <p v-else-if="following === 'asking' && !empty && !outside" class="cut" role="status">
      Changes come a few seconds late: there is no live connection, so this page asks now and then.
    </p>
    <main>
      <div v-if="error" class="station"><ProblemNote :error="error" /></div>
      <SignInPage v-if="outside" :access="access!" />
      <BeginPage v-else-if="empty" />
      <template v-else>
        <FirstPlan v-if="studio?.first && !route.path.startsWith('/beginning')" :first="studio.first" />
        <RouterView />
        <PaperFoot :path="route.fullPath" />
      </template>
    </main>
    <FindAnything v-if="findingSeen" v-model="finding" />
    <JournalDrawer v-if="journalSeen" v-model="journal" />
    <v-dialog v-model="keys" max-width="420" :aria-label="$t('Keys')">
      <div class="sheet keys">
        <h2>Keys</h2>
        <dl>
          <template v-for="s in open" :key="s.key">
            <dt>{{ s.key }}</dt>
            <dd>
              {{ s.name }} <span class="quiet">{{ s.question }}</span>
            </dd>
          </template>
          <dt>/</dt>
          <dd>Find anything, or do it <span class="quiet">from where text is typed: Ctrl K</span></dd>
          <dt>j</dt>
          <dd>What was recorded</dd>
          <dt>?</dt>
          <dd>This list</dd>
        </dl>
      </div>
    </v-dialog>
  </v-app>
</template>

<style scoped>
.stem {
  display: flex;
  align-items: center;
  gap: 16px;
  padding: 10px 26px 0;
  flex-wrap: wrap;
}
.house span {
  max-width: 10ch;
  overflow: hidden;
  display: -webkit-box;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 2;
  line-height: 1.1;
}
.house {
  display: flex;
  align-items: center;
  gap: 8px;
  font-family: var(--name);
  font-size: 1.0667rem;
}
nav {
  flex: 1;
  display: flex;
  align-self: flex-end;
  padding-top: 15px;
  border-bottom: 2px solid var(--leaf);
  border-radius: 0 0 0 14px;
}
nav a {
  position: relative;
  padding: 5px 7px 10px;
  color: var(--ink);
  text-decoration: none;
  font-size: 1rem;
  white-space: nowrap;
}
nav a.begins:not(:first-child) {
  margin-left: 8px;
}
nav a::after {
  content: "";
  position: absolute;
  left: 50%;
  bottom: -6px;
  width: 10px;
  height: 10px;
  margin-left: -5px;
  border-radius: 50%;
  border: 2px solid var(--leaf);
  background: var(--marble);
  box-sizing: border-box;
}
nav a.here {
  font-weight: 650;
}
nav a.here::after {
  width: 18px;
  height: 18px;
  margin-left: -9px;
  bottom: -10px;
  background: var(--petal);
  border-color: var(--petal);
  border-radius: 2px 9px;
}
.group {
  position: absolute;
  top: -12px;
  left: 8px;
  font-size: 0.7667rem;
  font-style: italic;
  color: var(--soft);
}
.awaits {
  display: inline-block;
  width: 9px;
  height: 9px;
  background: var(--dust);
  transform: rotate(45deg);
  margin-left: 3px;
}
.log {
  color: var(--soft);
}
.twin {
  display: grid;
  gap: 2px;
}
.twin button {
  min-width: 24px;
  min-height: 24px;
}
.log path {
  fill: none;
  stroke: currentColor;
  stroke-width: 2.2;
  stroke-linecap: round;
}
.working {
  align-self: center;
  font-size: 0.9rem;
  font-style: italic;
  color: var(--soft);
}
.cut {
  margin: 10px 26px 0;
  padding: 8px 14px;
  background: var(--dust-wash);
  border-left: 4px solid var(--dust);
}
.keys {
  padding: 22px 26px;
}
.keys dl {
  display: grid;
  grid-template-columns: 34px 1fr;
  row-gap: 8px;
}
.keys dt {
  font-weight: 700;
}
.keys dd {
  margin: 0;
}
@media (max-width: 1340px) {
  .stem {
    gap: 10px;
  }
  nav a {
    padding: 5px 5px 10px;
    font-size: 0.9733rem;
  }
  nav a.begins:not(:first-child) {
    margin-left: 5px;
  }
}
@media (max-width: 1150px) {
  .stem {
    gap: 10px;
    padding: 10px 20px 0;
  }
  nav a {
    padding: 5px 5px 10px;
    font-size: 0.9333rem;
  }
  nav a.begins:not(:first-child) {
    margin-left: 4px;
  }
  .house span {
    display: none;
  }
}
@media (max-width: 900px) {
  .stem {
    gap: 10px 18px;
    padding: 8px 12px 0;
  }
  nav {
    order: 5;
    flex: 0 0 100%;
    overflow-x: auto;
    padding-bottom: 10px;
    border-bottom: 0;
  }
  nav a.begins:not(:first-child) {
    margin-left: 8px;
  }
}
</style>
