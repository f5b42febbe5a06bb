<script setup lang="ts">
import { computed } from "vue";
import type { Schemas } from "../api/client";
import { lasting } from "../format";
import Swatch from "./Swatch.vue";
import WorkGlyph from "./WorkGlyph.vue";
import { word } from "../words/said";

/** How a making lies along time when nothing else is made: work as blocks, waits to scale. */
const props = defineProps<{ sheet: Schemas["Sheet"]; chosen?: string }>();
const emit = defineEmits<{ choose: [recipe: string, step: string] }>();

const lanes = computed(() => props.sheet.lanes);
const total = computed(() => Math.max(1, props.sheet.elapsedMinutes));
const x = (m: number) => (100 * m) / total.value;
/** A stretch of time, as far as the strip goes. */
const room = (from: number, to: number) => x(Math.min(to, total.value) - from);
const ticks = computed(() => {
  const step = [15, 30, 60, 120, 240, 480, 720, 1440].find((s) => total.value / s <= 10) ?? 2880;
  return Array.from({ length: Math.floor(total.value / step) + 1 }, (_, i) => i * step);
});
</script>

<template>
  <div class="strip">
    <div class="lane head">
      <span class="legend">
        <template v-if="lanes.some((l) => l.keeps)"><b class="soft" /> soft <b class="firm" /> firm</template>
      </span>
      <div class="time">
        <i v-for="t in ticks" :key="t" :style="{ left: `${x(t)}%` }">{{ t % 60 ? lasting(t) : `${t / 60} h` }}</i>
      </div>
    </div>
    <div v-for="(l, i) in lanes" :key="i" class="lane" :class="{ chosen: l.recipe === chosen }">
      <button class="bare who" @click="emit('choose', l.recipe, '')">
        <Swatch :colour="l.colour" :size="13" />
        <b v-if="l.kind !== 'mix' && l.count > 1">{{ l.count }}</b> {{ l.name }}
      </button>
      <div class="time">
        <template v-if="l.keeps">
          <i
            class="keeps soft"
            :style="{ left: `${x(l.keeps.from)}%`, width: `${room(l.keeps.from, l.keeps.firm)}%` }"
            :title="$t('soft for {from}', { from: lasting(l.keeps.firm - l.keeps.from) })"
          />
          <i
            v-if="l.keeps.firm < total"
            class="keeps firm"
            :style="{ left: `${x(l.keeps.firm)}%`, width: `${room(l.keeps.firm, l.keeps.stiff)}%` }"
            :title="$t('firm, for another {firm}', { firm: lasting(l.keeps.stiff - l.keeps.firm) })"
          />
        </template>
        <template v-for="s in l.spans" :key="s.step">
          <button
            v-if="s.wait"
            class="bare wait"
            :style="{ left: `${x(s.from)}%`, width: `${x(s.to - s.from)}%` }"
            :title="`${s.name}: ${lasting(s.to - s.from)}`"
            @click="emit('choose', l.recipe, s.step)"
          >
            <span v-if="x(s.to - s.from) > 7">{{ s.state ? `${s.state}, ` : "" }}{{ lasting(s.to - s.from) }}</span>
          </button>
          <button
            v-else
            class="bare work"
            :style="{ left: `${x(s.from)}%`, width: `${x(s.to - s.from)}%` }"
            :title="
              s.wants && s.wants !== 'any'
                ? $t('{name}: {time}; wants it {state}', {
                    name: s.name,
                    time: lasting(s.to - s.from),
                    state: word(s.wants),
                  })
                : `${s.name}: ${lasting(s.to - s.from)}`
            "
            @click="emit('choose', l.recipe, s.step)"
          >
            <WorkGlyph :glyph="s.glyph ?? 'shape'" :size="13" />
          </button>
        </template>
      </div>
    </div>
  </div>
</template>

<style scoped>
.strip {
  display: grid;
  gap: 2px;
}
.lane {
  display: grid;
  grid-template-columns: 172px 1fr;
  align-items: center;
  gap: 10px;
  min-height: 21px;
}
.lane.head {
  min-height: 15px;
}
.who {
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  font-size: 13.5px;
}
.chosen .who {
  font-weight: 700;
}
.time {
  position: relative;
  height: 19px;
  margin-right: 22px;
  border-bottom: 1px solid var(--vein);
}
.head .time {
  border: 0;
  height: 14px;
}
.head i {
  position: absolute;
  font-size: 11.5px;
  font-style: normal;
  color: var(--soft);
  border-left: 1px solid var(--vein);
  padding-left: 3px;
  white-space: nowrap;
}
.keeps {
  position: absolute;
  top: -2px;
  height: 0;
}
.legend {
  font-size: 11.5px;
  color: var(--soft);
}
.legend b {
  display: inline-block;
  width: 18px;
  margin-left: 6px;
  vertical-align: middle;
}
.soft {
  border-top: 4px dotted #4f7d94;
}
.firm {
  border-top: 4px double var(--dust);
}
.work,
.wait {
  position: absolute;
  top: 1px;
  height: 17px;
  overflow: hidden;
}
.work {
  min-width: 9px;
  background: var(--leaf);
  color: #fff;
  border-radius: 1px 5px 1px 5px;
  display: grid;
  place-items: center;
  z-index: 1;
}
.wait {
  border-bottom: 3px solid var(--dust);
  font-size: 11px;
  color: var(--soft);
  text-align: center;
  white-space: nowrap;
}
.wait:hover,
.work:hover {
  outline: 2px solid var(--petal);
}
</style>
