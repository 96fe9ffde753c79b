import type { DockviewPanelApi } from 'dockview-react';
import { useEffect, useState } from 'react';

/** Whether a panel is in front in its group. */
export function useIsShown(api: DockviewPanelApi): boolean {
    const [isShown, setShown] = useState(() => api.isVisible);
    useEffect(() => {
        setShown(api.isVisible);
        const listening = api.onDidVisibilityChange(({ isVisible }) => setShown(isVisible));
        return () => listening.dispose();
    }, [api]);
    return isShown;
}
