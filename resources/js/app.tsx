import { QueryClientProvider } from '@tanstack/react-query';
import { setNonce } from 'get-nonce';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { HashRouter } from 'react-router';
import { queries } from '@/api/queries';
import { App } from '@/shell/App';
import { live, MarketContext } from '@/stream/store';

// What Radix writes as a style of its own, while a sheet is open, needs this to be let through by the page's policy.
setNonce(document.querySelector<HTMLMetaElement>('meta[name="style-nonce"]')?.content ?? '');

const root = document.getElementById('desk');
if (root) {
    createRoot(root).render(
        <StrictMode>
            <QueryClientProvider client={queries}>
                <MarketContext value={live}>
                    <HashRouter>
                        <App />
                    </HashRouter>
                </MarketContext>
            </QueryClientProvider>
        </StrictMode>,
    );
}
