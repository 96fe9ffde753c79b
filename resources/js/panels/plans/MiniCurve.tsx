import { useEffect, useState } from 'react';
import { type Curve, call, type ExitPlan } from '@/api/client';

const WIDTH = 84;
const HEIGHT = 30;

/** A plan's curve as a small picture; a new version is drawn anew by its key. */
export function MiniCurve({ plan, contract }: { plan: ExitPlan; contract: string }) {
    const [curve, setCurve] = useState<Curve | null>(null);
    useEffect(() => {
        const abort = new AbortController();
        call<Curve>('GET', `exit-plans/${plan.id}/curve?best=24&contract=${contract}&quantity=10`, undefined, abort.signal)
            .then(setCurve)
            .catch(() => setCurve(null));
        return () => abort.abort();
    }, [plan.id, contract]);
    const stops = curve?.stops ?? [];
    const low = Math.min(-1, ...stops);
    const high = Math.max(1, ...stops);
    const x = (at: number) => 2 + (at / 24) * (WIDTH - 4);
    const y = (ticks: number) => 2 + ((high - ticks) / (high - low)) * (HEIGHT - 4);
    return (
        <svg className="mini-curve" viewBox={`0 0 ${WIDTH} ${HEIGHT}`} aria-hidden="true">
            <line className="even" x1={2} x2={WIDTH - 2} y1={y(0)} y2={y(0)} />
            {curve?.portions.map(
                (portion) =>
                    portion.target !== null &&
                    portion.target <= 24 && (
                        <line
                            key={portion.portion}
                            className="target"
                            x1={x(portion.target)}
                            x2={x(portion.target)}
                            y1={2}
                            y2={HEIGHT - 2}
                        />
                    ),
            )}
            <path d={stops.map((stop, at) => (at === 0 ? `M${x(0)} ${y(stop)}` : `H${x(at)}V${y(stop)}`)).join('')} />
        </svg>
    );
}
