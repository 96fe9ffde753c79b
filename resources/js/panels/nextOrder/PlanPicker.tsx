import { type RefObject, useEffect, useRef, useState } from 'react';
import { useChoices } from '@/model/choices';
import { useKeyOf } from '@/model/keymap';
import { show } from '@/model/screen';
import { useSide } from '@/model/useSide';
import { Button } from '@/ui/Button';
import { Choice, OneOf } from '@/ui/OneOf';
import { SideList } from '@/ui/SideList';
import { CHOICE } from './looks';
import { WORDS } from './words';

const NO_PLAN = 'none';
const PLAN = `${CHOICE} min-w-[30%] max-w-full flex-auto truncate`;
/** Whole rows of plans: two of them, or one where there is little room. */
const ROWS =
    'flex h-[3.875rem] flex-1 flex-wrap content-start gap-6 overflow-hidden tight:group-data-position/cards:h-[1.75rem] short:h-[1.5rem]!';

/** The exit plan of the next order. What has no room stands in a list to the side; the one that is chosen is always in sight. */
export function PlanPicker({ card }: { card: RefObject<HTMLElement | null> }) {
    const plan = useChoices((choices) => choices.plan);
    const plans = useChoices((choices) => choices.plans);
    const nextKey = useKeyOf('next-plan');
    const rows = useRef<HTMLDivElement>(null);
    const [isMore, setMore] = useState(false);
    // biome-ignore lint/correctness/useExhaustiveDependencies: the choice moves the mark, and so does another height
    useEffect(() => {
        const element = rows.current;
        if (element === null) return;
        const look = () => {
            setMore(element.scrollHeight > element.clientHeight + 1);
            element.querySelector('[data-state=on]')?.scrollIntoView({ block: 'nearest' });
        };
        const observer = new ResizeObserver(look);
        observer.observe(element);
        return () => observer.disconnect();
    }, [plan, plans]);
    return (
        <div className="flex gap-6">
            <OneOf ref={rows} name="plans" label="Exit plan" className={ROWS} value={plan === null ? NO_PLAN : String(plan)} set={choose}>
                <Plans />
            </OneOf>
            <span className="flex flex-col justify-around text-small leading-[1.1] whitespace-nowrap text-soft [&_kbd]:ml-2">
                <span>
                    next <kbd>{nextKey}</kbd>
                </span>
                {isMore ? <AllPlans count={plans.length} beside={card} /> : <EditPlans />}
            </span>
        </div>
    );
}

function choose(value: string): void {
    useChoices.setState({ plan: value === NO_PLAN ? null : Number(value) });
}

function Plans() {
    const plans = useChoices((choices) => choices.plans);
    return (
        <>
            {plans.map((candidate) => (
                <Choice key={candidate.id} className={PLAN} value={String(candidate.id)} title={candidate.document.name}>
                    {candidate.document.name}
                </Choice>
            ))}
            <Choice className={PLAN} value={NO_PLAN}>
                No plan
            </Choice>
        </>
    );
}

function EditPlans() {
    const plansKey = useKeyOf('plans');
    return (
        <Button tone="text" data-name="edit-plans" onClick={() => show('plans')}>
            edit <kbd>{plansKey}</kbd>
        </Button>
    );
}

function AllPlans({ count, beside }: { count: number; beside: RefObject<HTMLElement | null> }) {
    const plan = useChoices((choices) => choices.plan);
    const [open, setOpen] = useSide();
    const pick = (value: string) => {
        choose(value);
        setOpen(false);
    };
    return (
        <SideList
            name="plans"
            beside={beside}
            open={open}
            setOpen={setOpen}
            trigger={
                <Button tone="text" data-name="all-plans" title={WORDS.allPlans(count)}>
                    all {count} ›
                </Button>
            }
        >
            <OneOf
                name="all-plans"
                label="Every exit plan"
                className="grid gap-4"
                value={plan === null ? NO_PLAN : String(plan)}
                set={pick}
            >
                <Plans />
            </OneOf>
            <EditPlans />
        </SideList>
    );
}
