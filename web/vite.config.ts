import { createHash } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defaultClientConditions, defineConfig, type Plugin } from 'vite';
import { VitePWA } from 'vite-plugin-pwa';
import { ACCENTED } from '../core/src/words/accented.js';
import { givenWords } from '../core/src/words/given.js';

const language = process.env['KESTFOG_LANGUAGE'] || 'en';

/** The catalogue the page is built with: page and threads have it before their first word. English needs none. */
const words = givenWords(language, (name) => {
  const file = new URL(`../words/${name}.json`, import.meta.url);
  return existsSync(file) ? readFileSync(file, 'utf8') : null;
});

/** Names of days and months in that language, as date-fns has them. */
const dateLocale: Plugin = {
  name: 'date-locale',
  resolveId: (id) => (id === 'virtual:date-locale' ? `\0${id}` : null),
  load(id) {
    if (id !== '\0virtual:date-locale') return null;
    const known = ['en', ACCENTED].includes(language)
      ? undefined
      : [language, language.split('-')[0]].find((tag) => existsSync(new URL(`../node_modules/date-fns/locale/${tag}.js`, import.meta.url)));
    return known
      ? `export { ${known.replaceAll('-', '')} as locale } from 'date-fns/locale/${known}';`
      : 'export const locale = undefined;';
  },
};

/** Writes into the page what it is made of, so that page and server can tell whether they belong together. */
const pageVersion: Plugin = {
  name: 'page-version',
  transformIndexHtml: {
    order: 'post',
    handler: (html, { bundle }) => {
      const made = Object.keys(bundle ?? {}).filter((f) => !/\.(map|html)$/.test(f));
      const version = createHash('sha256').update(made.sort().join()).digest('hex').slice(0, 16);
      return html
        .replace('<html lang="en">', `<html lang="${language}">`)
        .replace('</head>', `  <meta name="kestfog-page" content="${bundle ? version : ''}" />\n  </head>`);
    },
  },
};

export default defineConfig(({ command }) => ({
  define: command === 'build' ? { 'globalThis.kestfogWords': words ? JSON.stringify(words) : 'undefined' } : {},
  plugins: [
    react(),
    dateLocale,
    pageVersion,
    tailwindcss(),
    // The page is kept on the device; when a newer one may take over is decided in its own code.
    VitePWA({
      strategies: 'injectManifest',
      srcDir: 'src/workers',
      filename: 'service-worker.ts',
      injectRegister: null,
      manifest: {
        name: 'Kestfog',
        short_name: 'Kestfog',
        description: 'What to pipe, when it is dry, what comes next.',
        start_url: '/orders',
        display: 'standalone',
        background_color: '#f3f8fb',
        theme_color: '#f3f8fb',
        icons: [
          { src: '/icon.svg', sizes: 'any', type: 'image/svg+xml', purpose: 'any' },
          ...['192', '512'].map((px) => ({ src: `/icon-${px}.png`, sizes: `${px}x${px}`, type: 'image/png', purpose: 'any maskable' })),
        ],
      },
      injectManifest: {
        globPatterns: ['**/*.{js,css,html,svg,png,woff,woff2}'],
        maximumFileSizeToCacheInBytes: 6_000_000,
        rollupFormat: 'iife',
      },
    }),
  ],
  resolve: { conditions: ['@kestfog/source', ...defaultClientConditions] },
  worker: { format: 'es', plugins: () => [dateLocale] },
  // Fonts stay files of their own, so that the page needs no data: addresses.
  build: {
    assetsInlineLimit: 0,
    sourcemap: true,
    chunkSizeWarningLimit: 900,
    rollupOptions: {
      output: {
        // Packages that only some places need stay out of the way of all others. Our own modules are left to the bundler: torn apart by
        // hand they would wait for each other in a circle.
        codeSplitting: {
          includeDependenciesRecursively: false,
          groups: [
            { name: 'reading', test: /node_modules\/(css-tree|source-map-js|saxes|xmlchars|svgpath|points-on-curve)\// },
            { name: 'shapes', test: /node_modules\/(clipper2-ts|polylabel|tinyqueue)\/|core\/src\/geometry\/clip\.ts/ },
            // Only Kitchen suggests what to type.
            { name: 'suggesting', test: /node_modules\/@base-ui\/react\/(autocomplete|combobox)\//, priority: 1 },
            { name: 'primitives', test: /node_modules\/(@base-ui|@floating-ui|use-sync-external-store)\/|src\/ui\/Sheet\.tsx/ },
            { name: 'checking', test: /node_modules\/zod\// },
            // With them what of ours leans on nothing else but them: left elsewhere they would draw it into every place.
            { name: 'colour', test: /node_modules\/culori\/|core\/src\/design\/(contrast|colour-names)\.ts/ },
          ],
        },
      },
    },
  },
  server: { host: '127.0.0.1', port: 5173, strictPort: true, proxy: { '/api': `http://127.0.0.1:${process.env['PORT'] ?? 3000}` } },
}));
