import { tighten } from '@/commands/actions';
import { groundOf } from '@/model/basis';
import { useChoices } from '@/model/choices';
import { useKeyOf } from '@/model/keymap';
import { OrderButton } from '@/ui/OrderButton';
import { still } from '@/ui/still';

/** Every stop of the position nearer to the market, by as many ticks as stand beside it; its key moves them by as many. */
export function Closer({ contract, disabled }: { contract: string; disabled: boolean }) {
    const ticks = useChoices((choices) => choices.closer);
    const step = (by: number) => useChoices.setState({ closer: ticks + by });
    return (
        <span className="closer" title="Every stop of the position nearer to the market">
            <button type="button" aria-label="Tighten by one tick less" disabled={ticks <= 1} onMouseDown={still} onClick={() => step(-1)}>
                −
            </button>
            <OrderButton
                tone="small"
                label={`Tighten ${ticks}`}
                keyName={useKeyOf('closer')}
                disabled={disabled}
                act={() => void tighten(groundOf(contract), ticks)}
                name="closer"
            />
            <button type="button" aria-label="Tighten by one tick more" onMouseDown={still} onClick={() => step(1)}>
                +
            </button>
        </span>
    );
}
