<script setup lang="ts">
import { ref } from "vue";
import { command, keepPicture, person, type Schemas } from "../../api/client";
import ProblemNote from "../../parts/ProblemNote.vue";
import { placeWords, valueWords } from "../../parts/fields/fields";
import type { Writing } from "./writing";

/** Photos and drawings of a recipe, and what its revisions changed. */
const props = defineProps<{ w: Writing; opened?: Schemas["Opened"] }>();
const error = ref<unknown>();

async function keep(event: Event) {
  const input = event.target as HTMLInputElement;
  error.value = undefined;
  try {
    for (const file of input.files ?? []) {
      const id = await keepPicture(file, command());
      props.w.editSelf((r) => (r.pictures = [...(r.pictures ?? []), { id, name: file.name.replace(/\.\w+$/, "") }]));
    }
  } catch (e) {
    error.value = e;
  }
  input.value = "";
}
</script>

<template>
  <div class="two">
    <section>
      <h3>Pictures of {{ w.base.value?.name }}</h3>
      <ProblemNote :error="error" />
      <figure v-for="p in w.base.value?.pictures ?? []" :key="p.id">
        <img :src="`/api/book/pictures/${p.id}`" :alt="p.name" loading="lazy" />
        <figcaption>
          {{ p.name }}
          <label
            >shows
            <select
              :value="p.step ?? ''"
              @change="
                w.editSelf((r) => {
                  const one = r.pictures?.find((x) => x.id === p.id);
                  if (one) one.step = ($event.target as HTMLSelectElement).value || undefined;
                })
              "
            >
              <option value="">the whole</option>
              <option v-for="s in w.base.value?.steps" :key="s.key" :value="s.key">{{ s.name }}</option>
            </select></label
          >
          <button
            class="bare"
            aria-label="Take the picture away"
            @click="w.editSelf((r) => (r.pictures = r.pictures?.filter((x) => x.id !== p.id)))"
          >
            ✕
          </button>
        </figcaption>
      </figure>
      <label v-if="person" class="add"
        >Add a photo or drawing<input
          type="file"
          name="picture"
          accept="image/png,image/jpeg,image/svg+xml"
          multiple
          hidden
          @change="keep"
      /></label>
      <p class="quiet">PNG, JPEG or SVG, up to 6 MiB each; made small, and cleaned of everything that is no picture.</p>
    </section>
    <section>
      <h3>Revisions</h3>
      <ol v-if="opened" data-test="revisions">
        <li v-for="r in opened.revisions" :key="r.recipe">
          <b>{{ r.revision }}</b>
          <span v-if="!r.changes.length" class="quiet">
            {{ r.revision === 1 ? $t("the first") : $t("something it uses was revised") }}</span
          >
          <ul>
            <li v-for="c in r.changes" :key="c.place" class="quiet">
              {{ placeWords(c.place) }}: {{ valueWords(c.place, c.was) }} → {{ valueWords(c.place, c.is) }}
            </li>
          </ul>
        </li>
      </ol>
      <p v-if="opened?.usedIn.length">
        Goes into
        <RouterLink v-for="u in opened.usedIn" :key="u.id" :to="`/book/pages/${u.id}`">{{ u.name }} </RouterLink>
      </p>
    </section>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 26px;
}
figure {
  margin: 6px 0;
}
img {
  max-width: 100%;
  max-height: 220px;
  border: 1px solid var(--vein);
  border-radius: 2px 12px 2px 12px;
}
ol {
  list-style: none;
  padding: 0;
}
</style>
