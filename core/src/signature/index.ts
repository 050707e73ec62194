export { LEAST_RUNS, limitOf, offNormalOf, signatureOf, type OffNormal, type Normal } from './offNormal.ts';
export { FEATURES, featuresOf, type Feature, type FeatureKey, type SignatureRecord } from './features.ts';
export { suspectsOf, type BenchSuspect, type SuspectKey } from './suspects.ts';
