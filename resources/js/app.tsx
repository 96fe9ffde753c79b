import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { App } from '@/shell/App';

const root = document.getElementById('desk');
if (root) {
    createRoot(root).render(
        <StrictMode>
            <App />
        </StrictMode>,
    );
}
