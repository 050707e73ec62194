/** Value at which a step of a sweep stood, from its name "Case fans, 60"; null where it is no sweep. */
export const sweptAt = (name: string) => {
  const tail = /, (-?\d+(?:\.\d+)?)(?: .*)?$/.exec(name);
  return tail ? Number(tail[1]) : null;
};
