<script setup lang="ts">
import type { Schemas } from "../../api/client";
import { useTimes } from "../../format";
import { t } from "../../words/said";

/** What is to start of a thing: large, with what it comes from, for whom, and from when it can be late. */
const props = defineProps<{ cell: Schemas["CountCell"]; orders: Schemas["Named"][] }>();
const times = useTimes();
/** The orders of a cell in a word or two. */
function whom(): string {
  const names = props.cell.orders.map((id) => props.orders.find((o) => o.id === id)?.name ?? "");
  return names.length > 2
    ? t("{names} and {names2} more", { names: names[0], names2: names.length - 1 })
    : names.join(", ");
}
</script>

<template>
  <span class="figures">
    <span class="figure">{{ cell.started }}</span>
    <span v-if="cell.spare" class="spare">{{ cell.spare }} spare</span>
    <span class="quiet">
      {{ cell.gross }} needed<template v-if="cell.fromShelf"> · {{ cell.fromShelf }} on shelf</template>
      <template v-if="cell.fromWork"> · {{ cell.fromWork }} in work</template>
      <template v-if="cell.decided"> · {{ cell.decided }} decided</template>
    </span>
    <span v-if="cell.orders.length" class="whom">
      {{ whom() }}, <span :class="{ late: cell.late }">from {{ times.dayShort(cell.latestStart) }}</span>
    </span>
  </span>
</template>

<style scoped>
.figures {
  display: grid;
  grid-template-columns: auto 1fr;
  column-gap: 7px;
  align-items: baseline;
}
.quiet,
.whom {
  grid-column: span 2;
  font-size: 0.8333rem;
}
.whom {
  color: var(--soft);
  font-style: italic;
}
.late {
  color: var(--late);
  font-weight: 600;
}
.spare {
  font-size: 0.8333rem;
  color: var(--spare);
  font-weight: 650;
  white-space: nowrap;
}
</style>
