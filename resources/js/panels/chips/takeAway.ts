import { giveUp } from '@/commands/beingSent';
import { dropDraft } from '@/commands/drafts';
import type { ChipData } from './Chip';

/** What the cross of a chip does. */
export function takeAway(chip: ChipData, cancel: (order: number) => void): void {
    if (chip.command !== undefined) giveUp(chip.command);
    else if (chip.role === 'draft') dropDraft(chip.id);
    else cancel(chip.id);
}
