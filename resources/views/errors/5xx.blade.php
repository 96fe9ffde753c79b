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
        <p>Something is wrong on our side; it was logged.</p>
        <p>Your stops rest at the venue whatever this page says.</p>
        <p><a href="/">Go to the desk</a></p>
    </main>
</body>
</html>
