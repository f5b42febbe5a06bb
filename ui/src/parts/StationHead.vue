<script setup lang="ts">
defineProps<{ title: string; says?: string }>();
</script>

<template>
  <header class="station-head">
    <div>
      <h1>{{ title }}</h1>
      <p>{{ says }}</p>
    </div>
    <div class="grow" />
    <slot />
  </header>
</template>
