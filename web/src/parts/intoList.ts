import { ref } from 'vue'

/** Counts how often somebody went from the search line down into the list of what was found. */
export const intoList = ref(0)
