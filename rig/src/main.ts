import { parseArgs } from 'node:util';
import { RigClient } from './link/rigClient.ts';

const { values } = parseArgs({
  options: {
    url: { type: 'string', default: 'ws://127.0.0.1:4500/rig' },
    id: { type: 'string', default: 'bench-1' },
    name: { type: 'string', default: 'Simulated bench' },
  },
});

const passphrase = process.env.RED_EMBER_PASSPHRASE;
const client = new RigClient({
  url: values.url,
  id: values.id,
  name: values.name,
  ...(passphrase ? { passphrase } : {}),
  log: (text) => console.log(text),
});
client.start();
for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.on(signal, () => {
    client.close();
    process.exit(0);
  });
}
