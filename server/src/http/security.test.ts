import { request } from 'node:http';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { FakeRig, testBench, type TestBench } from '../tests/testBench.ts';
import { assertSafeToListen, Guesses, refuse } from './security.ts';

let bench: TestBench;
beforeAll(async () => {
  bench = await testBench();
});
afterAll(() => bench.remove());

/** fetch sets Host by itself; the bare client sends what it is told. */
function statusWith(headers: Record<string, string>): Promise<number> {
  return new Promise((resolve, reject) => {
    request({ host: '127.0.0.1', port: bench.port, path: '/api/v1/studies', headers }, (res) => {
      res.resume();
      resolve(res.statusCode!);
    })
      .on('error', reject)
      .end();
  });
}

describe('who may ask', () => {
  it("answers to this machine's own names only", async () => {
    expect(await statusWith({ host: `localhost:${bench.port}` })).toBe(200);
    expect(await statusWith({ host: 'bench.example' })).toBe(421);
    expect(refuse({}, { host: '127.0.0.1', passphrase: null })!.status).toBe(421);
  });

  it('refuses the scripts of other sites', async () => {
    expect(await statusWith({ origin: `http://127.0.0.1:${bench.port}`, host: `127.0.0.1:${bench.port}` })).toBe(200);
    expect(await statusWith({ origin: 'http://evil.example', host: `127.0.0.1:${bench.port}` })).toBe(403);
    expect(await statusWith({ origin: 'null', host: `127.0.0.1:${bench.port}` })).toBe(403);
  });

  it('refuses a page of another site on the rig link too', async () => {
    await expect(FakeRig.connect(bench.port, { headers: { origin: 'http://evil.example' } })).rejects.toThrow('403');
  });

  it('does not listen on the network without a passphrase', () => {
    expect(() => assertSafeToListen({ host: '0.0.0.0', passphrase: null })).toThrow(/RED_EMBER_PASSPHRASE/);
    expect(() => assertSafeToListen({ host: '0.0.0.0', passphrase: 'short' })).toThrow();
    expect(() => assertSafeToListen({ host: '0.0.0.0', passphrase: 'long enough for a bench' })).not.toThrow();
    expect(() => assertSafeToListen({ host: '127.0.0.1', passphrase: null })).not.toThrow();
  });

  it('takes blanks for no passphrase, in whatever script they are', () => {
    for (const passphrase of [' '.repeat(20), '\u3000'.repeat(20), '\u200b'.repeat(20), ' a b c d e f '])
      expect(() => assertSafeToListen({ host: '0.0.0.0', passphrase })).toThrow(/besides blanks/);
    const passphrase = 'пятнадцать градусов';
    expect(() => assertSafeToListen({ host: '0.0.0.0', passphrase })).not.toThrow();
    const access = { host: '0.0.0.0', passphrase };
    const asSent = Buffer.from(passphrase, 'utf8').toString('latin1');
    expect(refuse({ host: '192.0.2.7:4500', 'x-passphrase': asSent }, access)).toBeNull();
  });

  it('slows down whoever guesses, after five, and says so in the log', () => {
    let now = 0;
    const said: string[] = [];
    const guesses = new Guesses(
      (text) => said.push(text),
      () => now,
    );
    for (let i = 0; i < 5; i++) guesses.missed('192.0.2.9');
    expect(guesses.waitS('192.0.2.9')).toBe(0);
    guesses.missed('192.0.2.9');
    expect(guesses.waitS('192.0.2.9')).toBe(2);
    expect(guesses.waitS('192.0.2.8')).toBe(0);
    for (let i = 0; i < 30; i++) guesses.missed('192.0.2.9');
    expect(guesses.waitS('192.0.2.9')).toBe(300);
    now += 301_000;
    expect(guesses.waitS('192.0.2.9')).toBe(0);
    guesses.right('192.0.2.9');
    guesses.missed('192.0.2.9');
    expect(guesses.waitS('192.0.2.9')).toBe(0);
    expect(said.at(-1)).toBe('Wrong passphrase number 36 from 192.0.2.9.');
  });

  it('compares the origin whole, and lets a link of another site lead here but nothing else of it', () => {
    const access = { host: '127.0.0.1', passphrase: null };
    const host = '127.0.0.1:4500';
    expect(refuse({ host, origin: `https://${host}` }, access)!.status).toBe(403);
    expect(refuse({ host, origin: `http://${host}/` }, access)!.status).toBe(403);
    expect(refuse({ host, origin: `http://${host}` }, access)).toBeNull();
    expect(refuse({ host, origin: `https://${host}`, 'x-forwarded-proto': 'https' }, access)).toBeNull();
    expect(refuse({ host, 'sec-fetch-site': 'cross-site', 'sec-fetch-mode': 'no-cors' }, access)!.status).toBe(403);
    expect(refuse({ host, 'sec-fetch-site': 'cross-site', 'sec-fetch-mode': 'navigate' }, access)).toBeNull();
    expect(refuse({ host, 'sec-fetch-site': 'same-origin', 'sec-fetch-mode': 'cors' }, access)).toBeNull();
  });

  it('asks for the passphrase where it listens on the network', () => {
    const access = { host: '0.0.0.0', passphrase: 'long enough for a bench' };
    const host = '192.0.2.7:4500';
    expect(refuse({ host }, access)!.status).toBe(401);
    expect(refuse({ host, 'x-passphrase': 'wrong' }, access)!.status).toBe(401);
    expect(refuse({ host, 'x-passphrase': access.passphrase }, access)).toBeNull();
    expect(refuse({ host, authorization: `Basic ${Buffer.from(`me:${access.passphrase}`).toString('base64')}` }, access)).toBeNull();
    expect(refuse({ host }, { ...access, host: '127.0.0.1' })!.status).toBe(421);
  });

  it('sends a policy without inline scripts or foreign sources', async () => {
    const { headers } = await bench.call('GET', '/api/v1/studies');
    const policy = headers.get('content-security-policy')!;
    expect(policy).toContain("default-src 'none'");
    expect(policy).toContain("script-src 'self'");
    expect(policy).not.toMatch(/script-src[^;]*(unsafe|https?:|\*)/);
    expect(headers.get('x-content-type-options')).toBe('nosniff');
    expect(headers.get('x-powered-by')).toBeNull();
  });
});

describe('the interface', () => {
  it('describes itself from the contract classes', async () => {
    const { json } = await bench.call('GET', '/api/v1/openapi.json');
    expect(json.openapi).toBe('3.1.0');
    expect(json.paths['/studies/{id}'].put.requestBody.content['application/json'].schema.$ref).toBe('#/components/schemas/StudyBody');
    expect(json.components.schemas.StudyBody.properties.spots.items.$ref).toBe('#/components/schemas/SpotBody');
    expect(json.components.schemas.SpotBody.required).toContain('limitC');
  });

  it('answers with problem details where there is nothing, or not JSON', async () => {
    expect((await bench.call('GET', '/api/v1/nothing')).json).toMatchObject({ status: 404, title: 'Not found' });
    const broken = await fetch(`http://127.0.0.1:${bench.port}/api/v1/studies`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: '{',
    });
    expect(broken.status).toBe(400);
    expect(await broken.json()).toMatchObject({ title: 'Not JSON' });
  });
});
