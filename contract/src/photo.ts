/** A photograph, resized for display and without the camera's own notes. */
export interface Photo {
  id: string;
  name: string;
  widthPx: number;
  heightPx: number;
  madeAt: string;
}
