<!doctype html>
<html lang="en">
<head>
    <meta charset="utf-8">
    <meta name="viewport" content="width=device-width, initial-scale=1">
    <title>{{ $exception->getStatusCode() }} · Lotrik</title>
    <link rel="icon" href="/favicon.svg" type="image/svg+xml">
    @vite(['resources/css/app.css'])
</head>
<body class="sign-in">
    <main>
        <h1 class="wordmark">Lotrik</h1>
        @switch($exception->getStatusCode())
            @case(404) <p>There is nothing at this address.</p> @break
            @case(419) <p>This page had been open for too long. Go back and try again.</p> @break
            @case(429) <p>Too many tries. Wait a minute, then try again.</p> @break
            @default <p>That did not work ({{ $exception->getStatusCode() }}).</p>
        @endswitch
        <p>Your stops rest at the venue whatever this page says.</p>
        <p><a href="/">Go to the desk</a></p>
    </main>
</body>
</html>
