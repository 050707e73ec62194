import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['{core,study,contract,server,rig,practice,web,demo,cli,scripts}/**/*.test.{ts,tsx}'],
    exclude: ['**/node_modules/**'],
    env: { TZ: 'UTC', LANG: 'en_GB.UTF-8' },
    testTimeout: 30_000,
    // A bound and no claim: a busy machine stands still for seconds.
    expect: { poll: { timeout: 10_000 } },
    // One worker a core: most of the time goes into computing, not into waiting.
    maxWorkers: '100%',
    environmentOptions: { happyDOM: { settings: { disableIframePageLoading: true } } },
  },
});
