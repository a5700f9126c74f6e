import '@fontsource/ibm-plex-sans/latin-400.css'
import '@fontsource/ibm-plex-sans/latin-600.css'
import '@fontsource/ibm-plex-sans/latin-700.css'
import '@fontsource/ibm-plex-mono/latin-400.css'
import './element-styles.ts'
import './theme.css'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import { config } from 'zod'
import App from './App.vue'
import { fetchFonts } from './fonts.ts'
import { router } from './router.ts'

// The page's content security policy allows no code made from strings.
config({ jitless: true })

void fetchFonts()
createApp(App).use(createPinia()).use(router).mount('#app')
