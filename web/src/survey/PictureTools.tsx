import { Crosshair, SquareDashed } from 'lucide-react';
import { Button } from '../ui/Button.tsx';
import type { Tool } from './HeatPicture.tsx';

/** What the pointer does on the picture: look, mark a surface, or set one of the two references. */
export function PictureTools({ tool, setTool, references }: { tool: Tool; setTool: (tool: Tool) => void; references: number }) {
  return (
    <div className="flex flex-wrap items-center gap-1">
      <Button
        look={tool.kind === 'region' ? 'strong' : 'quiet'}
        aria-pressed={tool.kind === 'region'}
        onClick={() => setTool(tool.kind === 'region' ? { kind: 'look' } : { kind: 'region' })}
      >
        <SquareDashed size={15} aria-hidden /> Mark a surface
      </Button>
      {([0, 1] as const).map((index) => {
        const on = tool.kind === 'reference' && tool.index === index;
        return (
          <Button
            key={index}
            look={on ? 'strong' : 'quiet'}
            aria-pressed={on}
            disabled={index > references}
            onClick={() => setTool(on ? { kind: 'look' } : { kind: 'reference', index })}
          >
            <Crosshair size={15} aria-hidden /> Reference {index === 0 ? 'A' : 'B'}
          </Button>
        );
      })}
    </div>
  );
}

/** How to use the tool in hand. */
export function ToolHint({ tool }: { tool: Tool }) {
  if (tool.kind === 'look') return null;
  return (
    <p className="mb-2 text-[0.93rem] text-soft">
      {tool.kind === 'region'
        ? 'Drag over a surface of its own: shiny metal, a label, tape. With keys: arrows, Enter for each corner.'
        : 'Press a place that you can also find on the map: a corner of a package, a screw.'}
    </p>
  );
}
