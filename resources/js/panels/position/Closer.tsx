import { tighten } from '@/commands/actions';
import { groundOf } from '@/model/basis';
import { useChoices } from '@/model/choices';
import { useKeyOf } from '@/model/keymap';
import { Button } from '@/ui/Button';
import { OrderButton } from '@/ui/OrderButton';
import { WORDS } from './words';

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
        <span className="flex min-w-0 flex-1 items-center gap-3" title={WORDS.everyStopNearer}>
            <Button tone={tone === 'row' ? 'step' : 'touch'} aria-label={WORDS.tightenLess} disabled={ticks <= 1} onClick={() => step(-1)}>
                −
            </Button>
            <OrderButton
                tone={tone}
                className="flex-1"
                label={WORDS.tighten(ticks)}
                keyName={useKeyOf('closer')}
                disabled={disabled}
                act={() => void tighten(groundOf(contract), ticks)}
                name="closer"
            />
            <Button tone={tone === 'row' ? 'step' : 'touch'} aria-label={WORDS.tightenMore} onClick={() => step(1)}>
                +
            </Button>
        </span>
    );
}
