/** Flags for Debian's Chromium without a screen or a graphics card; only root needs to leave the sandbox. */
export const chromiumFlags = [
  '--headless=new',
  '--use-angle=swiftshader',
  '--enable-unsafe-swiftshader',
  '--disable-gpu-compositing',
  '--disable-dev-shm-usage',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--no-first-run',
  ...(process.getuid() === 0 ? ['--no-sandbox'] : []),
]
