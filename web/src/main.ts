import '@fontsource-variable/hanken-grotesk'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import App from './App.vue'
import './look/element'
import './look/look.css'
import { suggests } from './parts/suggests'
import { router } from './routes'

createApp(App)
  // The cursor stands in a field that has just come.
  .directive('focus', { mounted: (el: HTMLElement) => (el.querySelector('input') ?? el).focus() })
  .directive('suggests', suggests)
  .use(createPinia())
  .use(router)
  .mount('#app')
