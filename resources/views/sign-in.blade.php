<x-outside title="Sign in">
        <p>A price ladder that protects and works your position by itself.</p>
    @if ($errors->any())
        <p class="fault" role="alert">{{ $errors->first() }}</p>
    @endif
    <form method="post" action="/sign-in">
        @csrf
        <label>E-mail <input name="email" type="text" autocomplete="username" required value="{{ old('email') }}"></label>
        <label>Password <input name="password" type="password" autocomplete="current-password" required></label>
        <button class="primary">Sign in</button>
    </form>
    @if ($demo)
        <form method="post" action="/demo">
            @csrf
            <p>No account yet? Kestrel Bay is a practice market with invented contracts. Nothing in it is real.</p>
            <button>Enter the demo desk</button>
        </form>
    @endif
</x-outside>
