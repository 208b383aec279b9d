<script setup lang="ts">
import OutsideGallery from './OutsideGallery.vue'
</script>

<template>
  <div class="page"><OutsideGallery /></div>
</template>
