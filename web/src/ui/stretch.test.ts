import { describe, expect, it } from 'vitest';
import { movedBy, zoomedBy } from './stretch.ts';

describe('a stretch of a record', () => {
  it('moves as far as the record goes, and stays as wide', () => {
    expect(movedBy({ fromS: 100, toS: 200 }, 30, 1000)).toEqual({ fromS: 130, toS: 230 });
    expect(movedBy({ fromS: 100, toS: 200 }, -300, 1000)).toEqual({ fromS: 0, toS: 100 });
    expect(movedBy({ fromS: 900, toS: 950 }, 300, 1000)).toEqual({ fromS: 950, toS: 1000 });
  });
  it('is looked at closer around its middle, or around what stays where it is', () => {
    expect(zoomedBy({ fromS: 100, toS: 300 }, 0.5, 1000)).toEqual({ fromS: 150, toS: 250 });
    expect(zoomedBy({ fromS: 100, toS: 300 }, 0.5, 1000, 100)).toEqual({ fromS: 100, toS: 200 });
    expect(zoomedBy({ fromS: 0, toS: 1000 }, 0.5, 1000, 1000)).toEqual({ fromS: 500, toS: 1000 });
    expect(zoomedBy({ fromS: 10, toS: 11 }, 0.1, 1000)).toEqual({ fromS: 9.5, toS: 11.5 });
  });
  it('is all of it, once it would be as wide as that', () => {
    expect(zoomedBy({ fromS: 0, toS: 600 }, 2, 1000)).toBeNull();
    expect(zoomedBy({ fromS: 0, toS: 400 }, 2, 1000)).toEqual({ fromS: 0, toS: 800 });
    expect(movedBy({ fromS: 0, toS: 1000 }, 50, 1000)).toBeNull();
  });
});
