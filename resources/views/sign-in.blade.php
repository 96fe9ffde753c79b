<x-outside title="Sign in">
        <p>A price ladder that protects and works your position by itself.</p>
    @if ($fault !== null)
        <p class="fault" role="alert">{{ $fault }}</p>
    @endif
    <form method="post" action="/sign-in">
        <label>E-mail <input name="email" type="text" autocomplete="username" required value="{{ $email }}"></label>
        <label>Password <input name="password" type="password" autocomplete="current-password" required></label>
        <button class="primary">Sign in</button>
    </form>
    @if ($demo)
        <form method="post" action="/demo">
                <p>No account yet? Kestrel Bay is a practice market with invented contracts. Nothing in it is real.</p>
            <button>Enter the demo desk</button>
        </form>
    @endif
</x-outside>
