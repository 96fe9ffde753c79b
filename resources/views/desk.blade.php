<!doctype html>
<html lang="en">
<head>
    <meta charset="utf-8">
    <meta name="viewport" content="width=device-width, initial-scale=1">
    <meta name="csrf-token" content="{{ csrf_token() }}">
    <meta name="style-nonce" content="{{ Vite::cspNonce() }}">
    <title>Desk · Lotrik</title>
    <link rel="icon" href="/favicon.svg" type="image/svg+xml">
    @vite(['resources/css/app.css', 'resources/js/app.tsx'])
</head>
<body>
    <script type="application/json" id="click-table">@json(\Lotrik\Order\ClickKind::table())</script>
    <script type="application/json" id="key-actions">@json(\App\Settings\KeyMap::actions())</script>
    <div id="desk"><p class="p-16 text-soft">The desk is opening…</p></div>
    <noscript>Lotrik needs JavaScript: the ladder is drawn as the market moves.</noscript>
</body>
</html>
