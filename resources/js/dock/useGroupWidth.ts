import type { DockviewGroupPanel } from 'dockview-react';
import { useEffect, useState } from 'react';

/** How wide a group of panels is, in pixels. */
export function useGroupWidth({ api }: DockviewGroupPanel): number {
    const [width, setWidth] = useState(api.width);
    useEffect(() => {
        setWidth(api.width);
        const heard = api.onDidDimensionsChange((now) => setWidth(now.width));
        return () => heard.dispose();
    }, [api]);
    return width;
}
