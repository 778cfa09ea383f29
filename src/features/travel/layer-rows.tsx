import type { Layer } from '@/core/travel/layer-spec';
import { layerWeight } from '@/core/travel/layer-value';

/** Height (px) of a layer's row. */
export const LAYER_ROW = 20;
const WASH = 14;
const LOOKS = 160;

/** Layers as rows: the height of a layer's wash is how much it counts, its keys are posts on it. */
export function LayerRows({
  layers,
  at,
  top,
  from,
  to,
  x,
  phase,
}: {
  layers: readonly Layer[];
  at: number;
  top: number;
  from: number;
  to: number;
  x: (t: number) => number;
  phase: ((t: number) => number) | null;
}) {
  return (
    <g data-testid="layer-rows" pointerEvents="none">
      {layers.map((layer, i) => {
        const base = top + i * LAYER_ROW + WASH;
        const line = Array.from({ length: LOOKS + 1 }, (_, n) => {
          const t = from + ((to - from) * n) / LOOKS;
          return `${x(t).toFixed(1)},${(base - WASH * layerWeight(layer, t, phase ? phase(t) : null)).toFixed(1)}`;
        });
        return (
          <g key={i} opacity={layer.mute ? 0.35 : 1}>
            <polygon points={`${x(from)},${base} ${line.join(' ')} ${x(to)},${base}`} fill="var(--sea)" fillOpacity={i === at ? 0.42 : 0.22} />
            {layer.keys.map((k) => (
              <line key={k.at} x1={x(k.at)} x2={x(k.at)} y1={base} y2={base - WASH} stroke="currentColor" strokeWidth={2.4} />
            ))}
          </g>
        );
      })}
    </g>
  );
}
