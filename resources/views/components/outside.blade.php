<!doctype html>
<html lang="en">
<head>
    <meta charset="utf-8">
    <meta name="viewport" content="width=device-width, initial-scale=1">
    <title>{{ $title }} · Lotrik</title>
    <link rel="icon" href="/favicon.svg" type="image/svg+xml">
    @vite(['resources/css/app.css'])
</head>
<body class="sign-in">
    <main>
        <h1 class="wordmark">Lotrik</h1>
        {{ $slot }}
    </main>
</body>
</html>
