import { request } from 'node:http';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { FakeRig, testBench, type TestBench } from '../tests/testBench.ts';
import { assertSafeToListen, refuse } from './security.ts';

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
