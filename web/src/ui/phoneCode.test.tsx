import jsQR from 'jsqr';
import { renderToStaticMarkup } from 'react-dom/server';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { PhoneCode } from './PhoneCode.tsx';

/** As long as addresses of a bench get: a name in a network, a study and a mount by their ids. */
const LONGEST =
  'http://thermal-bench-two.workshop.example:4500/studies/01a22e7e-23d7-7570-b052-a766b152b6b1/mount?to=01a22e7e-24e0-746f-8031-75911add1683';

/** What a camera makes of a code on paper: held askew, a little out of focus, in poor light, with grain. */
async function seenByCamera(address: string, size: number): Promise<string | null> {
  // A hand's breadth away it sees four pixels of its own for each of ours; a large code is held further off, to be in sight as a whole.
  const pixels = Math.min(4 * size, 450);
  const svg = renderToStaticMarkup(<PhoneCode address={address} size={size} />);
  const seen = sharp(Buffer.from(svg), { density: 300 })
    .resize(pixels)
    .extend({ top: 40, bottom: 40, left: 40, right: 40, background: '#ffffff' })
    .rotate(11, { background: '#d8d2c4' })
    .blur(0.8)
    .linear(0.55, 40);
  const { data, info } = await seen.ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  let state = 7;
  for (let i = 0; i < data.length; i += 4) {
    state = (state * 1_103_515_245 + 12_345) % 2_147_483_648;
    const grain = (state / 2_147_483_648 - 0.5) * 24;
    for (let c = 0; c < 3; c++) data[i + c] = Math.max(0, Math.min(255, data[i + c]! + grain));
  }
  return jsQR(new Uint8ClampedArray(data), info.width, info.height)?.data ?? null;
}

describe('a code', () => {
  it.each([
    [72, 'the label of a part'],
    [104, 'a card on paper'],
    [224, 'the screen'],
  ])('%i wide, as on %s, is read by a camera', async (size) => {
    for (const address of ['http://192.0.2.17:4500/studies/s1/run', LONGEST]) expect(await seenByCamera(address, size)).toBe(address);
  });
});
