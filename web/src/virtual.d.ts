/** Made by the build for the language of the page (vite.config.ts). */
declare module 'virtual:date-locale' {
  export const locale: import('date-fns').Locale | undefined;
}
