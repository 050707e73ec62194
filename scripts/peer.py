"""What a capable script takes for the same log, for comparison: reads it, finds spikes by a running median, takes means over windows
with their doubt from autocorrelation, fits a rise to every spot and stores the columns. Needs pandas, scipy and bottleneck.

    python3 scripts/peer.py FILE LOAD_START_S LOAD_END_S COLUMNS.npz
"""

import sys
import time

import bottleneck
import numpy
import pandas
from scipy.optimize import curve_fit

MEDIAN_OF = 51
WINDOW_S = 300


def spikes(values):
    middle = bottleneck.move_median(values, MEDIAN_OF, min_count=1)
    middle = numpy.concatenate([middle[MEDIAN_OF // 2 :], numpy.full(MEDIAN_OF // 2, middle[-1])])
    off = numpy.abs(values - middle)
    return off > max(5 * 1.4826 * bottleneck.nanmedian(off), 0.3)


def mean_with_doubt(values):
    """Mean and its standard uncertainty: the variance times the sum of correlations up to the first negative one, over n."""
    n = len(values)
    rest = values - values.mean()
    power = numpy.abs(numpy.fft.rfft(rest, 2 * n)) ** 2
    correlation = numpy.fft.irfft(power)[:n]
    if correlation[0] == 0:
        return values.mean(), 0.0
    correlation /= correlation[0]
    below = numpy.argmax(correlation < 0) or n
    times = 1 + 2 * correlation[1:below].sum()
    return values.mean(), rest.std(ddof=1) * numpy.sqrt(max(times, 1) / n)


def rise(t, last, by, tau):
    return last - by * numpy.exp(-t / tau)


def main(path, load_start, load_end, out):
    started = time.perf_counter()
    frame = pandas.read_csv(path)
    read = time.perf_counter()
    t = frame.iloc[:, 0].to_numpy()
    numpy.savez(out, **{name: frame[name].to_numpy() for name in frame})
    stored = time.perf_counter()
    spots = [name for name in frame if name.startswith("TC")]
    for name in frame.columns[1:]:
        values = frame[name].to_numpy().astype(float)
        bad = spikes(values)
        clean = numpy.where(bad, numpy.nan, values)
        for start, end in ((load_start - WINDOW_S, load_start), (load_end - WINDOW_S, load_end)):
            window = clean[(t >= start) & (t < end)]
            mean_with_doubt(window[~numpy.isnan(window)])
        if name in spots:
            inside = (t >= load_start) & (t < load_end) & ~bad
            # A fit needs no more than a point in ten seconds.
            x, y = t[inside][::100] - load_start, clean[inside][::100]
            curve_fit(rise, x, y, p0=(y[-1], y[-1] - y[0], 300), maxfev=4000)
    done = time.perf_counter()
    print(f"read {read - started:.2f} s, stored {stored - read:.2f} s, readings {done - stored:.2f} s, together {done - started:.2f} s")


if __name__ == "__main__":
    main(sys.argv[1], float(sys.argv[2]), float(sys.argv[3]), sys.argv[4])
