import { useIsMutating } from '@tanstack/react-query';
import { Problem } from './client';
import { queries } from './queries';

/**
 * Changes something at the server that is no command to the desk. Those of one name go one after the other, so that each is made from what
 * the one before has left. Gives back what the server had against it, empty where nothing.
 */
export async function change(name: string, make: () => Promise<unknown>): Promise<string> {
    const options = { mutationKey: [name], scope: { id: name }, networkMode: 'always', mutationFn: make } as const;
    try {
        await queries.getMutationCache().build(queries, options).execute(undefined);
        return '';
    } catch (error) {
        if (error instanceof Problem) return error.message;
        throw error;
    }
}

/** While it is under way a second press would do it twice. */
export const useIsChanging = (name: string): boolean => useIsMutating({ mutationKey: [name] }) > 0;
