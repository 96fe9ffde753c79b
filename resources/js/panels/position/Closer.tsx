import { tighten } from '@/commands/actions';
import { groundOf } from '@/model/basis';
import { useChoices } from '@/model/choices';
import { useKeyOf } from '@/model/keymap';
import { Button } from '@/ui/Button';
import { OrderButton } from '@/ui/OrderButton';
import { still } from '@/ui/still';

interface Props {
    contract: string;
    disabled: boolean;
    tone?: 'row' | 'touch';
}

/** Every stop of the position nearer to the market, by as many ticks as stand beside it; its key moves them by as many. */
export function Closer({ contract, disabled, tone = 'row' }: Props) {
    const ticks = useChoices((choices) => choices.closer);
    const step = (by: number) => useChoices.setState({ closer: ticks + by });
    return (
        <span className="flex flex-none items-center gap-3" title="Every stop of the position nearer to the market">
            <Button
                tone={tone === 'row' ? 'step' : 'touch'}
                aria-label="Tighten by one tick less"
                disabled={ticks <= 1}
                onMouseDown={still}
                onClick={() => step(-1)}
            >
                −
            </Button>
            <OrderButton
                tone={tone}
                className="flex-1"
                label={`Tighten ${ticks} ${ticks === 1 ? 'tick' : 'ticks'}`}
                keyName={useKeyOf('closer')}
                disabled={disabled}
                act={() => void tighten(groundOf(contract), ticks)}
                name="closer"
            />
            <Button
                tone={tone === 'row' ? 'step' : 'touch'}
                aria-label="Tighten by one tick more"
                onMouseDown={still}
                onClick={() => step(1)}
            >
                +
            </Button>
        </span>
    );
}
