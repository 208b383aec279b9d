<script setup lang="ts">
import { useScale } from './scale'

/** Strips inside stand on one scale: a brush that is larger looks larger. */
useScale()
</script>

<template><slot /></template>
