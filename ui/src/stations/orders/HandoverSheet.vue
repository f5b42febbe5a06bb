<script setup lang="ts">
import { computed } from "vue";
import type { Schemas } from "../../api/client";
import CakeDrawing from "../../drawings/CakeDrawing.vue";
import { length, stockOf, useTimes } from "../../format";
import { useLineColours } from "./colours";
import { t, word } from "../../words/said";

/** What goes with an order to whoever receives it, from top to bottom as somebody unpacks it. */
const props = defineProps<{ sheet: Schemas["SheetView"] }>();
const times = useTimes();
const order = computed(() => props.sheet.order);
const line = (id: string) => props.sheet.lines.find((l) => l.line === id);
const colour = useLineColours(() => order.value.lines);
const packed = (id: string) => props.sheet.packing.lines.find((l) => l.line === id);
/** How many of a line are in the boxes: as they were counted in, else as they are ordered. */
const many = (l: Schemas["SheetLine"]) => {
  const p = packed(l.line);
  return p ? p.good + p.second : l.quantity;
};
const range = (p: Schemas["PieceView"]) =>
  p.least === p.most || p.unit !== "pieces"
    ? p.most
      ? stockOf(p.most, p.unit, p.name)
      : t("{name}, on them", { name: p.name })
    : t("{least} to {most} × {name}", { least: p.least, most: p.most, name: p.name });
const where = (c: Schemas["Cake"], p: Schemas["Placing"]) => {
  if (p.on === "loose") return t("loose, to be placed with the cake");
  const tier = c.tiers.length > 1 ? t("tier {n} from below", { n: p.tier + 1 }) : t("the tier");
  return p.on === "side" ? t("at the side of {tier}", { tier }) : t("on top of {tier}", { tier });
};
const holder = (id?: string) => props.sheet.contents.notFood.find((p) => p.material === id)?.name;
const concerned = computed(() => props.sheet.contents.allergens.filter((a) => a.concerns));
</script>

<template>
  <article class="sheet hand" data-test="handover-sheet">
    <header>
      <h1>{{ order.name }}</h1>
      <p>
        {{ order.occasion
        }}<template v-if="order.client"> · {{ $t("for {name}", { name: order.client.name }) }}</template
        ><template v-if="order.goes"> · {{ order.goes }}</template> <br />
        {{
          $t("leaves {studio} {when}, {how}", {
            studio: sheet.studio,
            when: times.wall(order.leaves),
            how: word(order.leaving),
          })
        }}<template v-if="order.eaten">; {{ $t("eaten {when}", { when: times.wall(order.eaten) }) }}</template>
      </p>
    </header>

    <section>
      <h2>What is in the box</h2>
      <table class="ledger">
        <tbody>
          <tr v-for="l in sheet.lines" :key="l.line">
            <td class="number">
              <b>{{ many(l) }}</b>
            </td>
            <td>
              {{ l.name }} <span class="quiet">{{ l.colourway }}</span>
            </td>
            <td class="quiet">
              <template v-if="packed(l.line)?.second">{{
                $t("{n} of them second: where it will not show", { n: packed(l.line)!.second })
              }}</template>
            </td>
          </tr>
        </tbody>
      </table>
      <ol v-if="sheet.packing.boxes.length" class="boxes">
        <li v-for="(b, i) in sheet.packing.boxes" :key="i">
          {{ b.holds }}<span class="quiet">{{ b.dry ? $t(" · with desiccant: not food") : "" }}</span>
        </li>
      </ol>
    </section>

    <section v-for="c in order.cakes ?? []" :key="c.id" class="cake">
      <h2>{{ $t("Where it goes: {cake}", { cake: c.name }) }}</h2>
      <div class="drawn">
        <CakeDrawing :cake="c" :colour="colour" :width="380" />
        <ol>
          <li v-for="p in c.placings ?? []" :key="p.id">
            <b>{{ p.quantity }} {{ line(p.line)?.name }}</b
            >, {{ where(c, p)
            }}<template v-if="p.on !== 'loose' && p.depthMicrometres"
              >, {{ $t("{deep} deep", { deep: length(p.depthMicrometres) }) }}</template
            ><template v-if="holder(p.holder)">, {{ $t("in {holder}", { holder: holder(p.holder)! }) }}</template
            ><template v-if="p.note">; {{ p.note }}</template>
          </li>
        </ol>
      </div>
    </section>

    <section class="off" data-test="comes-off">
      <h2>Has to come off before the cake is cut</h2>
      <p v-if="!sheet.contents.notFood.length">
        No material of these flowers is marked as no food. Look at each flower all the same.
      </p>
      <ul v-else>
        <li v-for="p in sheet.contents.notFood" :key="p.material + p.unit">
          <i class="tick" aria-hidden="true" /> {{ range(p) }}
        </li>
      </ul>
      <p class="caution">
        Count what comes off against this list. Wires do not go into cake unprotected; take everything out before
        cutting.
        <template v-if="sheet.contents.unsaid.length">{{
          $t("Nobody has said whether these are food: {names}. Treat them as not food.", {
            names: sheet.contents.unsaid.join(", "),
          })
        }}</template>
      </p>
    </section>

    <section data-test="holds">
      <h2>What it may contain</h2>
      <p v-if="order.allergies.length">
        <b>{{ $t("Asked for without: {what}.", { what: order.allergies.join(", ") }) }}</b>
        <template v-if="concerned.length">{{
          $t("It holds {what}: do not serve it before that is cleared up.", {
            what: concerned.map((a) => a.name).join(", "),
          })
        }}</template>
        <template v-else>{{ $t("None of the materials recorded for it names that.") }}</template>
        <template v-if="sheet.contents.uncompared.length">{{
          $t(" Nothing was compared with: {what}.", { what: sheet.contents.uncompared.join(", ") })
        }}</template>
      </p>
      <ul>
        <li v-for="a in sheet.contents.allergens" :key="a.name">
          <b>{{ a.name }}</b>
          {{ $t("in {materials}", { materials: a.materials.join(", ") })
          }}<template v-if="a.labels.length"> ({{ a.labels.join("; ") }})</template>
        </li>
      </ul>
      <p class="caution">
        By the labels of the materials as the studio has them; traces of others cannot be ruled out. Whoever must not
        eat something asks, and the local rules on food hold.
      </p>
    </section>

    <section>
      <h2>Keeping it</h2>
      <p>
        Dry, dark, in the closed box, at room temperature. Not in a refrigerator: cold flowers draw water when they come
        out, and go soft. Away from damp air, steam and sun. Open the box by hand, lift each by its stem.
        <template v-if="sheet.damp">The air is damp: keep the desiccant in the box until the last hour.</template>
      </p>
    </section>

    <section class="signed">
      <p v-if="sheet.packing.signed" data-test="signed">
        {{ $t("Signed off {when} by {who}", { when: times.full(sheet.packing.signed.at), who: sheet.signedBy ?? "" })
        }}<template v-if="sheet.checkedBy">, {{ $t("checked by {who}", { who: sheet.checkedBy }) }}</template
        ><template v-if="sheet.packing.signed.receives"
          >, {{ $t("handed to {who}", { who: sheet.packing.signed.receives }) }}</template
        >.
      </p>
      <p v-else class="quiet">Not signed off yet: what is in the box may still change.</p>
      <p v-if="sheet.lent.length">
        {{ $t("Please send back: {what}.", { what: sheet.lent.map(range).join(", ") }) }}
      </p>
    </section>
  </article>
</template>

<style scoped>
.hand {
  padding: 22px 28px;
}
h2 {
  font-size: 1.15rem;
  margin: 14px 0 4px;
}
section {
  break-inside: avoid;
}
.number {
  text-align: right;
  padding-right: 10px;
}
.drawn {
  display: flex;
  flex-wrap: wrap;
  gap: 18px;
  align-items: center;
}
.drawn ol {
  flex: 1;
  min-width: 220px;
}
.off ul {
  list-style: none;
  padding: 0;
  columns: 2;
}
.tick {
  display: inline-block;
  width: 0.85em;
  height: 0.85em;
  border: 1.5px solid currentColor;
  margin-right: 6px;
}
p,
li {
  margin: 3px 0;
}
.signed {
  border-top: 1px solid var(--vein);
  margin-top: 12px;
  padding-top: 8px;
}
@media (max-width: 560px) {
  .off ul {
    columns: 1;
  }
}
</style>
