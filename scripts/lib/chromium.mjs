/**
 * How Debian's Chromium is started for tests, figures and pictures: the build without windows. The one with windows draws
 * an address bar of its own for every page, which costs more than many a test.
 */
export const CHROMIUM = {
  executablePath: '/usr/bin/chromium-headless-shell',
  args: [
    '--no-sandbox',
    '--disable-gpu-sandbox',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
    '--disable-default-apps',
    '--disable-domain-reliability',
    '--no-pings',
  ],
}
