import { readFile, writeFile } from 'node:fs/promises'
import { promisify } from 'node:util'
import { brotliCompress, constants, gzip } from 'node:zlib'
import vue from '@vitejs/plugin-vue'
import Components from 'unplugin-vue-components/vite'
import { ElementPlusResolver } from 'unplugin-vue-components/resolvers'
import { defineConfig, type Plugin } from 'vite'

const PACKED = /\.(js|css|html|svg|json)$/

/** Beside each file that packs well its two packed forms, which the server hands to who accepts them. */
function packed(): Plugin {
  const brotli = promisify(brotliCompress)
  const gz = promisify(gzip)
  const params = { [constants.BROTLI_PARAM_QUALITY]: 11 }
  return {
    name: 'packed',
    apply: 'build',
    enforce: 'post',
    // Once all is written: until then other plugins still change what they made.
    async writeBundle({ dir }, bundle) {
      for (const name of Object.keys(bundle).filter((one) => PACKED.test(one))) {
        const path = `${dir}/${name}`
        const source = await readFile(path)
        await writeFile(`${path}.br`, await brotli(source, { params }))
        await writeFile(`${path}.gz`, await gz(source, { level: 9 }))
      }
    },
  }
}

/**
 * The addresses of the views (src/routes.ts) as regular expressions in `views.json`, so that the server knows which
 * addresses are none.
 */
function addresses(): Plugin {
  return {
    name: 'addresses',
    apply: 'build',
    async generateBundle() {
      const routes = await readFile(new URL('src/routes.ts', import.meta.url), 'utf8')
      // Every literal that begins with a slash is an address: those of `view(…)` and of `path:`.
      const paths = [...routes.matchAll(/(?:path: |^ *|, )['`](\/[^'`\s]*)['`]/gm)].map(([, path]) => path!)
      const views = paths
        .filter((path) => !path.includes(':rest') && !path.includes('${'))
        .map((path) => path.replaceAll('\\\\', '\\'))
        .map((path) => path.replace(/^\/:library\(\\d\+\)/, ''))
        .map((path) => path.replace(/:\w+\(\\d\+\)/g, '\\d+').replace(/:\w+/g, '[^/]+'))
        // A view stands below its library; without one, the library that is looked at is meant.
        .map((path) => `(?:/\\d+)?${path}`)
      this.emitFile({ type: 'asset', fileName: 'views.json', source: JSON.stringify(['/', '/\\d+/?', ...views]) })
    },
  }
}

export default defineConfig({
  plugins: [
    vue(),
    // Components of Element Plus come in where they stand in a template; their looks are in src/look/element.ts.
    Components({ dirs: [], dts: false, resolvers: [ElementPlusResolver({ importStyle: false })] }),
    addresses(),
    packed(),
  ],
  // Nothing is put into the styles as a data address: our content policy lets in our own files only.
  build: { chunkSizeWarningLimit: 600, assetsInlineLimit: 0 },
})
