<script setup lang="ts">
import { ref } from "vue";
import { command, keepPicture, person, type Schemas } from "../../api/client";
import ProblemNote from "../../parts/ProblemNote.vue";

/** Sketches and photos that are kept with an order. */
const pictures = defineModel<Schemas["Picture"][]>({ required: true });
const error = ref<unknown>();

async function keep(event: Event) {
  const input = event.target as HTMLInputElement;
  error.value = undefined;
  try {
    for (const file of input.files ?? []) {
      const id = await keepPicture(file, command());
      pictures.value = [...pictures.value, { id, name: file.name.replace(/\.\w+$/, "") }];
    }
  } catch (e) {
    error.value = e;
  }
  input.value = "";
}
</script>

<template>
  <section class="pictures" data-test="order-pictures">
    <ProblemNote :error="error" />
    <figure v-for="p in pictures" :key="p.id">
      <img :src="`/api/book/pictures/${p.id}`" :alt="p.name" loading="lazy" />
      <figcaption>
        {{ p.name }}
        <button
          type="button"
          class="bare"
          :aria-label="$t('Take {name} away', { name: p.name })"
          @click="pictures = pictures.filter((x) => x.id !== p.id)"
        >
          ✕
        </button>
      </figcaption>
    </figure>
    <label v-if="person" class="add"
      >Keep a sketch or photo with it<input
        type="file"
        name="order-picture"
        accept="image/png,image/jpeg,image/svg+xml"
        multiple
        hidden
        @change="keep"
    /></label>
  </section>
</template>

<style scoped>
.pictures {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  align-items: end;
  margin: 8px 0;
}
figure {
  margin: 0;
}
img {
  max-height: 130px;
  max-width: 220px;
}
</style>
