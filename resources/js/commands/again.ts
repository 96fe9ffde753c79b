import { chosenContract, useChoices } from '@/model/choices';
import { letWait } from '@/model/pending';
import { say } from '@/stream/store';
import { lastPlaced } from './actions';
import { addDraft } from './drafts';
import { WORDS } from './words';

/** The last order of the contract in front once more, as a draft: side, kind, price, lots, plan and tag as they were. */
export function repeatLast(): void {
    const { account } = useChoices.getState();
    const contract = chosenContract(useChoices.getState());
    const last = contract && lastPlaced(contract.code);
    if (!last || last.body.account !== account?.id) return say(WORDS.nothingToRepeat(contract?.code ?? ''));
    const { body, level } = last;
    if (level === null) return letWait(body);
    const { side, kind, price, trigger, quantity, exit_plan, tag = '', tif, over_band } = body;
    addDraft({
        side,
        kind,
        ...(price !== undefined && { price }),
        ...(trigger !== undefined && { trigger }),
        account: body.account,
        contract: body.contract,
        lots: quantity,
        plan: exit_plan,
        tag,
        ...(tif !== undefined && (tif === 'day' || tif === 'gtc') && { tif }),
        ...(over_band && { cut: true }),
        tick: level,
    });
}
