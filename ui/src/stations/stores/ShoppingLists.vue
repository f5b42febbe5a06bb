<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { reactive, ref } from "vue";
import { answered, client, type Schemas, useCommands } from "../../api/client";
import { given, money, spokenScale, stocked, useTimes } from "../../format";
import NumberField from "../../parts/NumberField.vue";
import ProblemNote from "../../parts/ProblemNote.vue";
import SureButton from "../../parts/SureButton.vue";
import WorkingSheet from "../../parts/WorkingSheet.vue";
import { useOrdering } from "./ordering";

/** What to buy from whom and by when, what stands still without it, and what is on its way. */
const props = defineProps<{ stores: Schemas["StoresView"] }>();
const times = useTimes();
const send = useCommands();
const packs = reactive<Record<string, number>>({});
const came = reactive<Record<string, number>>({});
const opened = ref<string>();

const wanted = (b: Schemas["ShoppingLine"]) => packs[b.material] ?? b.packs;
const order = useOrdering();
const orderAll = (list: Schemas["ShoppingList"]) =>
  order.mutate({
    supplier: list.supplier!.id,
    packs: Object.fromEntries(list.buys.map((b) => [b.material, wanted(b)])),
  });
const arrive = useMutation({
  mutationFn: (state: Schemas["PurchaseState"]) => {
    const body = { came: state.purchase.lines.map((l) => ({ line: l.id, packs: brought(l) })) };
    return send([state.purchase.id, body], (header) =>
      answered(
        client.POST("/api/purchases/{id}/arrived", {
          params: { path: { id: state.purchase.id }, header: { ...header, "If-Match": state.version } },
          body,
        }),
      ),
    );
  },
});
/** What was bought in a shop is there. */
const got = useMutation({
  mutationFn: (b: Schemas["ShoppingLine"]) => {
    const amount = given((wanted(b) * b.pack) / spokenScale(b.unit), b.unit);
    const body = { material: b.material, amount };
    return send(["bought", body], (header) =>
      answered(client.POST("/api/stores/bought", { params: { header }, body: body as never })),
    );
  },
});
/** What a supplier has said of an order that somebody sent: all of it, by a day. */
const says = reactive<Record<string, string>>({});
const confirm = useMutation({
  mutationFn: (state: Schemas["PurchaseState"]) => {
    const { id, lines, expected } = state.purchase;
    const day = says[id] || times.value.date(expected);
    const body = {
      expected: `${day}T10:00`,
      promised: Object.fromEntries(lines.map((l) => [l.id, l.packs])),
    };
    return send([id, body], (header) =>
      answered(
        client.POST("/api/purchases/{id}/confirmed", {
          params: { path: { id }, header: { ...header, "If-Match": state.version } },
          body,
        }),
      ),
    );
  },
});
const byHand = (id: string) => props.stores.suppliers.find((s) => s.id === id)?.takes === "by-hand";
const resend = useMutation({
  mutationFn: (state: Schemas["PurchaseState"]) =>
    send(["send", state.purchase.id, state.version], (header) =>
      answered(
        client.POST("/api/purchases/{id}/send", {
          params: { path: { id: state.purchase.id }, header: { ...header, "If-Match": state.version } },
        }),
      ),
    ),
});
const brought = (l: Schemas["PurchaseLine"]) => came[l.id] ?? Math.max(0, l.promised - l.arrived);
const material = (id: string) => props.stores.materials.find((m) => m.material === id);
const supplier = (id: string) => props.stores.suppliers.find((s) => s.id === id)?.name ?? "";
</script>

<template>
  <p v-if="!stores.shopping.length" class="sheet empty">
    Nothing has to be bought: what the plan takes is there or on its way.
  </p>
  <section v-for="l in stores.shopping" :key="l.supplier?.id ?? 'none'" class="sheet list">
    <header>
      <h2>{{ l.supplier?.name ?? $t("No supplier is known") }}</h2>
      <span v-if="l.supplier?.takes === 'shop'" class="quiet">a shop: somebody goes there</span>
      <span v-else-if="l.supplier" class="quiet"
        >brings it after {{ $t("{n} working day | {n} working days", l.supplier.days) }}</span
      >
      <span class="grow" />
      <span v-if="l.total" data-test="total">
        about <b>{{ money(l.total) }}</b><span v-if="l.unpriced" class="quiet">
          and {{ $t("{n} thing without a price | {n} things without a price", l.unpriced) }}</span
        >
      </span>
      <SureButton
        v-if="l.supplier && l.supplier.takes !== 'shop'"
        color="primary"
        :test="`order-${l.supplier.name}`"
        :asks="$t('Send this to {name}?', { name: l.supplier.name })"
        :yes="$t('Send it')"
        :no="$t('Not yet')"
        @sure="orderAll(l)"
        >Order this</SureButton
      >
    </header>
    <table class="ledger">
      <thead>
        <tr>
          <th>material</th>
          <th class="n">short</th>
          <th class="n">packs</th>
          <th>order by</th>
          <th>needed</th>
          <th>what stands still without it</th>
        </tr>
      </thead>
      <tbody v-for="b in l.buys" :key="b.material" :data-test="`buy-${b.name}`">
        <tr>
          <td>
            <button class="bare what" @click="opened = opened === b.material ? undefined : b.material">
              {{ b.name }}
            </button>
          </td>
          <td class="n">{{ stocked(b.short, b.unit) }}</td>
          <td class="n nowrap">
            <NumberField
              whole
              :model-value="wanted(b)"
              :aria-label="$t('packs of {name}', { name: b.name })"
              @update:model-value="packs[b.material] = $event ?? 0"
            />
            <span class="quiet"> of {{ stocked(b.pack, b.unit) }}</span>
            <button
              v-if="!l.supplier || l.supplier.takes === 'shop'"
              class="bare add"
              :data-test="`bought-${b.name}`"
              @click="got.mutate(b)"
            >
              bought
            </button>
          </td>
          <td>
            <span v-if="b.orderBy !== undefined" :class="b.late ? 'word late' : ''">{{ times.full(b.orderBy) }}</span>
          </td>
          <td>
            <template v-if="b.neededBy !== undefined">{{ times.full(b.neededBy) }}</template>
            <span v-else class="quiet">to keep some by</span>
          </td>
          <td>
            {{ b.stands.slice(0, 4).join(", ")
            }}<span v-if="b.stands.length > 4"> and {{ b.stands.length - 4 }} more</span>
            <span v-if="b.orders.length" class="quiet"> · {{ b.orders.join(", ") }}</span>
          </td>
        </tr>
        <tr v-if="opened === b.material">
          <td colspan="6"><WorkingSheet :workings="[b.working]" /></td>
        </tr>
      </tbody>
    </table>
  </section>
  <ProblemNote :error="order.error.value" />
  <section v-if="stores.purchases.length" class="sheet list">
    <h2>On the way</h2>
    <div v-for="p in stores.purchases" :key="p.purchase.id" class="purchase" data-test="purchase">
      <header>
        <h3>{{ supplier(p.purchase.supplier) }}</h3>
        <span>expected {{ times.full(p.purchase.expected) }}</span>
        <span v-if="p.purchase.expected <= stores.now" class="word tight">it should be here</span>
        <template v-if="p.purchase.state === 'sent'"
          ><span class="word tight">not confirmed yet</span>
          <template v-if="byHand(p.purchase.supplier)">
            <a class="add" :href="`/api/purchases/${p.purchase.id}/order.csv`" download data-test="order-table"
              >the order as a table</a
            >
            <label class="quiet">
              it comes on
              <input
                v-model="says[p.purchase.id]"
                type="date"
                class="own"
                :placeholder="times.date(p.purchase.expected)"
              />
            </label>
            <button class="bare add" data-test="confirmed-by-hand" @click="confirm.mutate(p)">they have said so</button>
          </template>
          <button v-else class="bare add" data-test="send-again" @click="resend.mutate(p)">
            send it again
          </button></template
        >
        <span v-else class="word safe">confirmed</span>
        <span class="quiet">{{ p.purchase.said }}</span>
        <span class="grow" />
        <v-btn variant="tonal" data-test="arrived" @click="arrive.mutate(p)">It has come: book it in</v-btn>
      </header>
      <table class="ledger">
        <tbody>
          <tr v-for="line in p.purchase.lines" :key="line.id">
            <td>{{ material(line.material)?.name }}</td>
            <td>
              {{ line.packs }} ordered<template v-if="line.promised !== line.packs"
                >, {{ line.promised }} promised</template
              ><template v-if="line.arrived">, {{ line.arrived }} came</template>
            </td>
            <td class="n">
              <NumberField
                whole
                :model-value="brought(line)"
                :aria-label="$t('packs of {name} that came', { name: material(line.material)?.name })"
                @update:model-value="came[line.id] = $event ?? 0"
              />
              <span class="quiet"> packs of {{ stocked(line.pack, material(line.material)?.unit ?? "") }}</span>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <ProblemNote :error="arrive.error.value ?? resend.error.value ?? confirm.error.value ?? got.error.value" />
  </section>
</template>

<style scoped>
.list {
  padding: 14px 20px;
  margin-bottom: 14px;
}
header {
  display: flex;
  gap: 14px;
  align-items: baseline;
}
.what {
  font-weight: 600;
}
.purchase {
  padding: 8px 0;
}
.nowrap {
  white-space: nowrap;
}
</style>
