import '@fontsource/archivo-narrow/400.css'
import '@fontsource/archivo-narrow/600.css'
import '@fontsource/spline-sans-mono/400.css'
import './theme/base.css'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import App from './App.vue'
import { report, listenForFailures } from './stores/errors'
import { router } from './router'

listenForFailures(window)
const app = createApp(App).use(createPinia()).use(router)
app.config.errorHandler = (error) => {
  console.error(error)
  report(error)
}
app.mount('#app')
