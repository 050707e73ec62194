import sharp from 'sharp';
import { HttpProblem, unprocessable } from '../http/problems.ts';

/** Enough to read the print on a pad on a large screen. */
const MOST_PX = 1600;
/** A decoded picture takes four bytes a pixel: this many are refused before they are decoded. */
const MOST_PIXELS = 100_000_000;
const FORMATS = new Set(['png', 'jpeg', 'webp']);

export interface DisplayImage {
  /** WebP. */
  image: Buffer;
  widthPx: number;
  heightPx: number;
}

/**
 * A photograph as it is displayed: turned upright, at most 1600 pixels a side, and made anew from its pixels, so that place, camera
 * and whatever else came with the file stays behind.
 *
 * @throws HttpProblem 422 where the content is no PNG, JPEG or WebP, whatever its name says, or is broken or too large
 */
export async function forDisplay(file: Buffer): Promise<DisplayImage> {
  try {
    const { format } = await sharp(file, { limitInputPixels: MOST_PIXELS }).metadata();
    if (!FORMATS.has(format ?? '')) throw unprocessable('This is no photograph: PNG, JPEG and WebP can be attached.');
    const { data, info } = await sharp(file, { limitInputPixels: MOST_PIXELS })
      .rotate()
      .resize(MOST_PX, MOST_PX, { fit: 'inside', withoutEnlargement: true })
      .webp({ quality: 82 })
      .toBuffer({ resolveWithObject: true });
    return { image: data, widthPx: info.width, heightPx: info.height };
  } catch (error) {
    if (error instanceof Error && /pixel limit/i.test(error.message))
      throw unprocessable(`This photograph has more than ${MOST_PIXELS / 1e6} million pixels.`);
    if (error instanceof HttpProblem) throw error;
    throw unprocessable('This is no photograph, or it is broken: PNG, JPEG and WebP can be attached.');
  }
}
