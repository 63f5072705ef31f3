/** Debian's Chromium, without a window and without anything that would reach for a network. */
export const CHROMIUM = {
  executablePath: '/usr/bin/chromium',
  args: [
    '--headless',
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
    // A microphone that beeps, and nobody asked whether it may.
    '--use-fake-device-for-media-stream',
    '--use-fake-ui-for-media-stream',
  ],
};
