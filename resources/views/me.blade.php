<x-layout title="You">
  <header class="title">
    <h1>{{ $me->name }}</h1>
    <span class="mono soft">{{ $me->sign_in }}</span>
  </header>
  <div class="split two">
    <section class="panel">
      <header>
        <h2>Where you are signed in</h2>
      </header>
      @if ($sessions->isEmpty())
        <p class="pad open">only here</p>
      @else
        <div class="scroll-x" tabindex="0" role="region" aria-label="Sessions">
          <table>
            <thead>
              <tr>
                <th>From</th>
                <th>With</th>
                <th>Last used</th>
              </tr>
            </thead>
            <tbody>
              @foreach ($sessions as $one)
                <tr>
                  <td class="mono">{{ $one->ip_address }}@if ($one->id === $here)
                      <span class="soft">this one</span>
                    @endif
                  </td>
                  <td class="wrap">{{ Str::limit((string) $one->user_agent, 90) }}</td>
                  <td>{{ Carbon\CarbonImmutable::createFromTimestamp($one->last_activity)->diffForHumans() }}</td>
                </tr>
              @endforeach
            </tbody>
          </table>
        </div>
      @endif
      <form class="pad" method="post" action="/act/end-sessions">
        @csrf
        <input type="hidden" name="then" value="commit">
        <button class="btn">Sign out everywhere else</button>
      </form>
    </section>
    <div class="side">
      <section class="panel">
        <header>
          <h2>Change your password</h2>
        </header>
        <form class="form pad" method="post" action="/act/change-password">
          @csrf
          <input type="hidden" name="then" value="commit">
          <div class="field">
            <span><label for="old">Present password</label></span>
            <input id="old" name="old" type="password" autocomplete="current-password" required>
          </div>
          <div class="field">
            <span><label for="new">New password</label></span>
            <input id="new" name="new" type="password" autocomplete="new-password" minlength="12" maxlength="200" required>
            <span class="hint">at least 12 characters, none of the common ones; your other sessions end</span>
          </div>
          <div class="decide"><button class="btn main" data-key="main">Change it <kbd>Ctrl Enter</kbd></button></div>
        </form>
      </section>
    </div>
  </div>
</x-layout>
