import type { ThermocoupleType } from '../instruments/statedAccuracy.ts';

/** A stretch of a reference function: E(t) = Σ c_i·t^i, mV from °C, valid in [fromC, toC]. */
export interface ReferencePiece {
  fromC: number;
  toC: number;
  coefficients: readonly number[];
}

/** Type K adds a0·exp(a1·(t − a2)²) above 0 °C. */
export const TYPE_K_BUMP = { a0: 0.1185976, a1: -0.1183432e-3, a2: 126.9686 } as const;

/**
 * Reference functions of the letter-designated thermocouples on the ITS-90, reference junction at 0 °C.
 *
 * @see Burns, Scroger, Strouse et al. 1993, NIST Monograph 175; the same coefficients as IEC 60584-1:2013
 */
export const REFERENCE_FUNCTIONS: Record<ThermocoupleType, readonly ReferencePiece[]> = {
  K: [
    {
      fromC: -270,
      toC: 0,
      coefficients: [
        0, 0.39450128025e-1, 0.23622373598e-4, -0.32858906784e-6, -0.49904828777e-8, -0.67509059173e-10, -0.57410327428e-12,
        -0.31088872894e-14, -0.10451609365e-16, -0.19889266878e-19, -0.16322697486e-22,
      ],
    },
    {
      fromC: 0,
      toC: 1372,
      coefficients: [
        -0.17600413686e-1, 0.38921204975e-1, 0.18558770032e-4, -0.99457592874e-7, 0.31840945719e-9, -0.56072844889e-12, 0.56075059059e-15,
        -0.3202072e-18, 0.97151147152e-22, -0.12104721275e-25,
      ],
    },
  ],
  T: [
    {
      fromC: -270,
      toC: 0,
      coefficients: [
        0, 0.38748106364e-1, 0.44194434347e-4, 0.11844323105e-6, 0.20032973554e-7, 0.90138019559e-9, 0.22651156593e-10, 0.36071154205e-12,
        0.38493939883e-14, 0.28213521925e-16, 0.14251594779e-18, 0.48768662286e-21, 0.1079553927e-23, 0.13945027062e-26, 0.79795153927e-30,
      ],
    },
    {
      fromC: 0,
      toC: 400,
      coefficients: [
        0, 0.38748106364e-1, 0.3329222788e-4, 0.20618243404e-6, -0.21882256846e-8, 0.10996880928e-10, -0.30815758772e-13, 0.4547913529e-16,
        -0.27512901673e-19,
      ],
    },
  ],
  J: [
    {
      fromC: -210,
      toC: 760,
      coefficients: [
        0, 0.50381187815e-1, 0.3047583693e-4, -0.8568106572e-7, 0.13228195295e-9, -0.17052958337e-12, 0.20948090697e-15, -0.12538395336e-18,
        0.15631725697e-22,
      ],
    },
    {
      fromC: 760,
      toC: 1200,
      coefficients: [0.29645625681e3, -0.14976127786e1, 0.31787103924e-2, -0.31847686701e-5, 0.15720819004e-8, -0.30691369056e-12],
    },
  ],
  N: [
    {
      fromC: -270,
      toC: 0,
      coefficients: [
        0, 0.26159105962e-1, 0.10957484228e-4, -0.93841111554e-7, -0.46412039759e-10, -0.26303357716e-11, -0.22653438003e-13,
        -0.76089300791e-16, -0.93419667835e-19,
      ],
    },
    {
      fromC: 0,
      toC: 1300,
      coefficients: [
        0, 0.25929394601e-1, 0.1571014188e-4, 0.43825627237e-7, -0.25261169794e-9, 0.64311819339e-12, -0.10063471519e-14, 0.99745338992e-18,
        -0.60863245607e-21, 0.20849229339e-24, -0.30682196151e-28,
      ],
    },
  ],
};
