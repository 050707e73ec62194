import { ownOutcome } from '@red-ember/core';
import type { StudyBody } from '@red-ember/contract';
import { ownFiguresOf } from '@red-ember/study';

/**
 * The study without one of its own figures, without claims and predictions about it, and without its weight for any reader.
 *
 * @param fixed predictions stand as they were written before the first run
 */
export function withoutOwnFigure(body: StudyBody, id: string, fixed = false): Partial<StudyBody> {
  const outcome = ownOutcome(id);
  return {
    figures: ownFiguresOf(body).filter((figure) => figure.id !== id),
    claims: body.claims.filter((claim) => claim.outcome !== outcome),
    ...(fixed ? {} : { predictions: body.predictions.filter((prediction) => prediction.outcome !== outcome) }),
    ...(body.judging
      ? {
          judging: {
            ...body.judging,
            profiles: body.judging.profiles.map((profile) => ({
              ...profile,
              weights: profile.weights.filter((entry) => entry.criterion !== outcome),
            })),
          },
        }
      : {}),
  };
}
