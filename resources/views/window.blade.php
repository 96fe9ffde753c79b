<!doctype html>
<html lang="en">
<head>
    <meta charset="utf-8">
    <title>Lotrik · window</title>
    <link rel="icon" href="/favicon.svg" type="image/svg+xml">
</head>
<body class="h-screen overflow-hidden"></body>
</html>
