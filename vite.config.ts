import path from 'node:path';
import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import laravel from 'laravel-vite-plugin';
import { defineConfig } from 'vite';

export default defineConfig({
    plugins: [laravel({ input: ['resources/css/app.css', 'resources/js/app.tsx'], refresh: false }), react(), tailwindcss()],
    resolve: { alias: { '@': path.resolve(import.meta.dirname, 'resources/js') } },
    build: { assetsInlineLimit: 0 },
});
