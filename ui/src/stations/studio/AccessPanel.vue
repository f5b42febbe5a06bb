<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from "@tanstack/vue-query";
import { renderSVG } from "uqr";
import { computed, ref } from "vue";
import { useAccess } from "../../api/access";
import { answered, client, person, type Schemas, useCommands } from "../../api/client";
import { useStudio } from "../../api/queries";
import ProblemNote from "../../parts/ProblemNote.vue";
import { word } from "../../words/said";

/** Tablets and people: who comes in, by what, and what is let in no more. */
const { data: access } = useAccess();
const { data: studio } = useStudio();
const lead = computed(() => !access.value?.locked || access.value.role === "lead");
const { data: all } = useQuery({
  queryKey: ["access", "all"],
  queryFn: () => answered(client.GET("/api/access/all")),
  enabled: lead,
  staleTime: 0,
});
const queries = useQueryClient();
const again = () => void queries.invalidateQueries({ queryKey: ["access"] });
const name = (id?: string) => studio.value?.people.find((p) => p.id === id)?.name ?? "";
const roles = ["lead", "maker", "hand-over"] as const;
const said = new Intl.DateTimeFormat(undefined, { dateStyle: "medium", timeStyle: "short" });

type Row = Schemas["PersonAccess"];
const opened = ref<Row>();
const draft = ref({ role: "maker" as (typeof roles)[number], password: "", pin: "", current: "" });
function open(p: Row) {
  opened.value = p;
  draft.value = { role: p.role as (typeof roles)[number], password: "", pin: "", current: "" };
  set.reset();
}
const send = useCommands();
const set = useMutation({
  mutationFn: async () => {
    const { id, d } = { id: opened.value!.person, d: draft.value };
    const body = {
      role: d.role,
      ...(d.password ? { password: d.password } : {}),
      ...(d.pin ? { pin: d.pin } : {}),
      ...(d.current ? { current: d.current } : {}),
    };
    await send([id, body], (header) =>
      answered(client.PUT("/api/access/people/{id}", { params: { path: { id }, header }, body })),
    );
    if (!access.value?.locked && d.password)
      // whoever locks the door stays inside
      await answered(client.POST("/api/access/sign-in", { body: { name: name(id), password: d.password } }));
  },
  onSuccess: () => {
    opened.value = undefined;
    again();
  },
});
const tablet = ref("");
const invite = useMutation({
  mutationFn: () => answered(client.POST("/api/access/invitations", { body: { name: tablet.value } })),
});
const address = computed(() => access.value?.at[0] ?? location.origin);
const code = computed(() => {
  const opens = `${address.value}/?tablet=${invite.data.value?.code ?? ""}`;
  return `data:image/svg+xml;utf8,${encodeURIComponent(renderSVG(opens, { border: 1 }))}`;
});
const drop = useMutation({
  mutationFn: (id: string) => answered(client.DELETE("/api/access/browsers/{id}", { params: { path: { id } } })),
  onSettled: again,
});
const key = ref({ name: "", purpose: "sensor" as "sensor" | "reader" | "calendar", opens: "" });
const make = useMutation({
  mutationFn: () =>
    answered(
      client.POST("/api/access/keys", {
        body: { ...key.value, opens: key.value.purpose === "calendar" ? key.value.opens : undefined },
      }),
    ),
  onSettled: again,
});
const dropKey = useMutation({
  mutationFn: (id: string) => answered(client.DELETE("/api/access/keys/{id}", { params: { path: { id } } })),
  onSettled: again,
});
</script>

<template>
  <section v-if="lead && access" data-test="access">
    <h2>Tablets and people</h2>
    <p v-if="!access.locked" class="quiet">
      Whoever sits at this computer is let in, and nobody from elsewhere. Before tablets can come in, somebody needs a
      password as lead: touch a name.
    </p>
    <template v-else>
      <p class="quiet">
        <template v-if="access.at.length">
          Read on this network at <b v-for="a in access.at" :key="a" class="at">{{ a }}</b>.
        </template>
        <template v-else>
          Only this computer is answered. <code>bractum serve --listen 0.0.0.0:8080</code> opens it to the workshop's
          network.
        </template>
        <template v-if="access.root">
          Tablets trust it by <a href="/root.crt">its root</a>, recognised by
          <code class="print">{{ access.root }}</code>.
        </template>
      </p>
      <p v-if="access.at.length && !access.secure" class="remark">
        It is not encrypted: who is on the same network can read along, passwords too, and tablets keep nothing for the
        time without a connection. <code>--https</code> changes that.
      </p>
    </template>
    <button
      v-for="p in all?.people"
      :key="p.person"
      class="chip"
      :class="{ here: opened?.person === p.person }"
      :data-test="`access-${name(p.person)}`"
      @click="open(p)"
    >
      {{ name(p.person) }}
      <small
        >{{ word(p.role) }}<template v-if="p.password">, password</template
        ><template v-if="p.pin">, PIN</template></small
      >
    </button>
    <form v-if="opened" class="sheet" data-test="access-form" @submit.prevent="set.mutate()">
      <b>{{ name(opened.person) }}</b>
      <label>
        is
        <select v-model="draft.role" data-test="access-role">
          <option v-for="r in roles" :key="r" :value="r">{{ word(r) }}</option>
        </select>
      </label>
      <label v-if="opened.password && opened.person === person">
        present password
        <input v-model="draft.current" type="password" autocomplete="current-password" />
      </label>
      <label>
        another password, ten letters or more
        <input v-model="draft.password" type="password" autocomplete="new-password" data-test="access-password" />
      </label>
      <label>
        another PIN for tablets, four figures or more
        <input v-model="draft.pin" type="password" inputmode="numeric" autocomplete="off" data-test="access-pin" />
      </label>
      <ProblemNote :error="set.error.value" />
      <footer>
        <v-btn variant="text" @click="opened = undefined">Leave it</v-btn>
        <v-btn type="submit" color="primary" data-test="access-save" :disabled="!person || set.isPending.value">
          Set it so
        </v-btn>
      </footer>
    </form>
    <template v-if="access.locked">
      <form class="line" @submit.prevent="invite.mutate()">
        <label>
          A tablet for the bench
          <input v-model="tablet" maxlength="60" data-test="tablet-name" />
        </label>
        <v-btn type="submit" variant="tonal" size="small" :disabled="!tablet" data-test="invite">Make a code</v-btn>
      </form>
      <div v-if="invite.data.value" class="sheet invitation" data-test="invitation">
        <img :src="code" class="qr" alt="the address for the tablet, as a code" />
        <p>
          Scan this with the tablet, or open <b>{{ address }}</b> on it and type
          <b class="code" data-test="code">{{ invite.data.value.code }}</b>. Good for one tablet, until
          {{ said.format(Date.parse(invite.data.value.ends)) }}.
        </p>
      </div>
      <table v-if="all?.browsers.length">
        <tbody>
          <tr v-for="b in all.browsers" :key="b.id">
            <td>
              <b>{{ b.name }}</b> <small>{{ b.kind === "tablet" ? $t("tablet") : $t("signed in") }}</small>
            </td>
            <td class="quiet">{{ said.format(Date.parse(b.seen)) }}</td>
            <td>
              <span v-if="b.this" class="quiet">this one</span>
              <button v-else class="bare add" :data-test="`drop-${b.name}`" @click="drop.mutate(b.id)">
                Let in no more
              </button>
            </td>
          </tr>
        </tbody>
      </table>
      <details>
        <summary>Keys for sensors and scripts</summary>
        <p v-for="k in all?.keys" :key="k.id">
          {{ k.name }} <small>{{ word(k.purpose) }}</small>
          <button class="bare add" @click="dropKey.mutate(k.id)">Let in no more</button>
        </p>
        <form class="line" @submit.prevent="make.mutate()">
          <label>For <input v-model="key.name" maxlength="60" /></label>
          <select v-model="key.purpose" aria-label="What it is for">
            <option value="sensor">sends readings</option>
            <option value="reader">reads the day</option>
            <option value="calendar">is a calendar</option>
          </select>
          <select v-if="key.purpose === 'calendar'" v-model="key.opens" aria-label="Which calendar">
            <option value="hand-overs">hand-overs</option>
            <option value="drying">what dries</option>
            <option v-for="p in all?.people" :key="p.person" :value="`people/${p.person}`">
              {{ $t("the work of {name}", { name: name(p.person) }) }}
            </option>
          </select>
          <v-btn type="submit" variant="tonal" size="small" :disabled="!key.name">Make a key</v-btn>
        </form>
        <p v-if="make.data.value" class="remark">
          Shown once:
          <code>{{
            make.data.value.opens
              ? `${address}/api/calendars/${make.data.value.opens}.ics?key=${make.data.value.secret}`
              : make.data.value.secret
          }}</code>
        </p>
      </details>
    </template>
    <ProblemNote :error="invite.error.value ?? drop.error.value ?? make.error.value ?? dropKey.error.value" />
  </section>
</template>

<style scoped>
.chip {
  font: inherit;
  color: inherit;
  padding: 6px 14px;
  margin: 0 8px 8px 0;
  border: 1.5px solid var(--vein);
  border-radius: 3px 12px;
  background: var(--sheet);
}
.chip.here {
  border-color: var(--petal);
}
small {
  color: var(--soft);
}
form.sheet {
  display: grid;
  gap: 10px;
  padding: 16px 20px;
  max-width: 460px;
}
form.sheet label {
  display: grid;
  gap: 3px;
  color: var(--soft);
}
.line {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  align-items: end;
  margin: 10px 0;
}
input,
select {
  font: inherit;
  color: var(--ink);
  padding: 6px 10px;
  border: 1.5px solid var(--vein);
  border-radius: 3px 10px;
  background: var(--field);
}
footer {
  display: flex;
  justify-content: flex-end;
  gap: 8px;
}
.invitation {
  display: flex;
  gap: 20px;
  align-items: center;
  padding: 16px 20px;
  max-width: 560px;
}
.qr {
  flex: none;
  width: 170px;
}
code {
  white-space: nowrap;
}
.code {
  font-size: 1.5rem;
  letter-spacing: 0.12em;
}
.at + .at::before {
  content: ", ";
}
code.print {
  white-space: normal;
  font-size: 0.75rem;
  overflow-wrap: anywhere;
}
td {
  padding: 4px 18px 4px 0;
}
</style>
