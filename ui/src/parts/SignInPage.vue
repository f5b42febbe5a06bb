<script setup lang="ts">
import { useMutation, useQueryClient } from "@tanstack/vue-query";
import { ref } from "vue";
import { type Access } from "../api/access";
import { answered, client, sitDown } from "../api/client";
import ProblemNote from "./ProblemNote.vue";

/** The door: somebody signs in, or a tablet is brought in by a lead's code. */
defineProps<{ access: Access }>();
const queries = useQueryClient();
const name = ref("");
const password = ref("");
const code = ref(new URLSearchParams(location.search).get("tablet") ?? "");
const asTablet = ref(code.value !== "");
async function letIn(is: Access) {
  sitDown(is.person ?? "");
  history.replaceState(history.state, "", location.pathname);
  queries.setQueryData(["access"], is);
  await queries.resetQueries({ predicate: (q) => q.queryKey[0] !== "access" });
}
const signIn = useMutation({
  mutationFn: () =>
    answered(client.POST("/api/access/sign-in", { body: { name: name.value, password: password.value } })),
  onSuccess: letIn,
  onSettled: () => (password.value = ""),
});
const join = useMutation({
  mutationFn: () => answered(client.POST("/api/access/tablet", { body: { code: code.value } })),
  onSuccess: letIn,
});
</script>

<template>
  <div class="door">
    <form v-if="!asTablet" class="sheet" data-test="sign-in" @submit.prevent="signIn.mutate()">
      <h1>Who comes in?</h1>
      <label>Name <input v-model="name" autocomplete="username" autofocus required data-test="sign-name" /></label>
      <label>
        Password
        <input v-model="password" type="password" autocomplete="current-password" required data-test="sign-password" />
      </label>
      <ProblemNote :error="signIn.error.value" />
      <v-btn type="submit" size="x-large" color="primary" data-test="sign-go" :disabled="signIn.isPending.value">
        Come in
      </v-btn>
      <p v-if="!access.secure" class="quiet">
        This is not encrypted: who is on the same network can read along. Whoever runs the studio's computer can change
        that with <code>--https</code>.
      </p>
      <button type="button" class="bare add" data-test="as-tablet" @click="asTablet = true">
        This is a tablet for a bench…
      </button>
    </form>
    <form v-else class="sheet" data-test="join" @submit.prevent="join.mutate()">
      <h1>A tablet for a bench</h1>
      <label>
        The code that the lead sees, under <b>Studio</b>
        <input v-model="code" autocomplete="off" autocapitalize="none" required class="code" data-test="join-code" />
      </label>
      <ProblemNote :error="join.error.value" />
      <v-btn type="submit" size="x-large" color="primary" data-test="join-go" :disabled="join.isPending.value">
        Bring it in
      </v-btn>
      <button type="button" class="bare add" @click="asTablet = false">Sign in with a password…</button>
    </form>
  </div>
</template>

<style scoped>
.door {
  display: grid;
  place-items: center;
  min-height: 70vh;
}
form {
  display: grid;
  gap: 16px;
  width: min(440px, 92vw);
  padding: 30px 34px;
}
label {
  display: grid;
  gap: 4px;
  color: var(--soft);
}
input {
  font: inherit;
  font-size: 1.3rem;
  color: var(--ink);
  padding: 9px 12px;
  border: 1.5px solid var(--vein);
  border-radius: 3px 10px;
  background: var(--field);
}
code {
  white-space: nowrap;
}
.code {
  letter-spacing: 0.2em;
}
</style>
