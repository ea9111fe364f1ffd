import { ref } from 'vue'

/**
 * What has not reached the server yet, in words, or nothing. It stands apart from the bench so that every page can show
 * it: work that waits outlives the page on which it was made.
 */
export const unsaved = ref('')

window.addEventListener('beforeunload', (e) => {
  if (unsaved.value) e.preventDefault()
})
