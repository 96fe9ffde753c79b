<!doctype html>
<html lang="en">
<head>
    <meta charset="utf-8">
    <meta name="viewport" content="width=device-width, initial-scale=1">
    <title>{{ $title }} · Lotrik</title>
    <link rel="icon" href="/favicon.svg" type="image/svg+xml">
    @vite(['resources/css/app.css'])
</head>
<body>
    <main class="relative top-[12vh] mx-auto max-w-360 rounded-sheet border border-rule bg-raised p-24">
        <h1 class="text-title font-[750]">Lotrik</h1>
        {{ $slot }}
    </main>
</body>
</html>
