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

export default defineConfig({
  plugins: [
    vue(),
    // Components of Element Plus come in where they stand in a template; their looks are in src/look/element.ts.
    Components({ dirs: [], dts: false, resolvers: [ElementPlusResolver({ importStyle: false })] }),
    packed(),
  ],
  // Nothing is put into the styles as a data address: our content policy lets in our own files only.
  build: { chunkSizeWarningLimit: 600, assetsInlineLimit: 0 },
})
