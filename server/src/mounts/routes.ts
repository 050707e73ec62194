import type { Handlers } from '../http/serve.ts';
import { photographAnswer, photographSent } from '../photographs/routes.ts';
import type { SeatService } from './seat.ts';
import type { MountService } from './service.ts';

export const mountHandlers = (mounts: MountService, seats: SeatService) =>
  ({
    benchMounts: () => mounts.ofBench(),
    listMounts: ({ params }) => mounts.ofStudy(params.id),
    makeMount: ({ params, body }) => mounts.make(params.id, body),
    changeOvers: () => mounts.learned(),
    takeMountBack: ({ params }) => mounts.takeBack(params.id),
    seat: ({ params }) => seats.of(params.id),
    addPhoto: ({ params, file }) => {
      const { name, content } = photographSent(file);
      return mounts.addPhoto(params.id, name, content);
    },
    photo: ({ params }) => photographAnswer(mounts.image(params.id)),
    removePhoto: ({ params }) => mounts.photographs.remove(params.id),
  }) satisfies Partial<Handlers>;
