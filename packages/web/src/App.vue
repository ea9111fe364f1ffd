<script setup lang="ts">
import { NConfigProvider, NDialogProvider, NMessageProvider, darkTheme } from 'naive-ui'
import { computed, watchEffect } from 'vue'
import ErrorBox from './components/ErrorBox.vue'
import { useLookStore } from './stores/look'
import { cssVariables, naiveOverrides } from './theme/theme'

const look = useLookStore()
const overrides = computed(() => naiveOverrides(look.theme))

watchEffect(() => {
  for (const [key, value] of Object.entries(cssVariables(look.theme))) document.body.style.setProperty(key, value)
  document.documentElement.style.colorScheme = look.theme
})
</script>

<template>
  <NConfigProvider :theme="look.theme === 'dark' ? darkTheme : null" :theme-overrides="overrides" style="height: 100%">
    <NMessageProvider placement="bottom-left" :max="3">
      <ErrorBox>
        <NDialogProvider>
          <RouterView />
        </NDialogProvider>
      </ErrorBox>
    </NMessageProvider>
  </NConfigProvider>
</template>
