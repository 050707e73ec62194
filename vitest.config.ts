import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['{core,study,contract,server,rig,web,demo,scripts}/**/*.test.{ts,tsx}'],
    exclude: ['**/node_modules/**'],
    env: { TZ: 'UTC', LANG: 'en_GB.UTF-8' },
    testTimeout: 30_000,
    environmentOptions: { happyDOM: { settings: { disableIframePageLoading: true } } },
  },
});
