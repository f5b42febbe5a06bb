<script setup lang="ts">
import { computed } from "vue";
import { person, sitDown } from "../api/client";
import { useStudio } from "../api/queries";

/** Who is at this bench: every write names a person. */
const { data: studio } = useStudio();
const name = computed(() => studio.value?.people.find((p) => p.id === person.value)?.name);
</script>

<template>
  <v-menu>
    <template #activator="{ props }">
      <button v-bind="props" class="bare who" data-test="who">
        <span class="quiet">at this bench</span>
        <strong :class="{ nobody: !name }">{{ name ?? $t("Who is here?") }}</strong>
      </button>
    </template>
    <div class="sheet menu">
      <button v-for="p in studio?.people" :key="p.id" class="bare" :data-test="`sit-${p.name}`" @click="sitDown(p.id)">
        {{ p.name }}
      </button>
    </div>
  </v-menu>
</template>

<style scoped>
.who {
  display: grid;
  line-height: 1.2;
}
.nobody {
  color: #a32740;
}
.menu {
  display: grid;
  padding: 10px 0;
  min-width: 150px;
}
.menu button {
  padding: 12px 20px;
}
.menu button:hover {
  background: var(--leaf-wash);
}
</style>
