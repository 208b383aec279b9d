<script setup lang="ts">
import ExternalGallery from './ExternalGallery.vue'
</script>

<template>
  <div class="page"><ExternalGallery /></div>
</template>
