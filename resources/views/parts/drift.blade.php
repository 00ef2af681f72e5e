{{-- Differences between a server and the plan, to take or to undo there. Wants lines, server, may, action, only (what a shipment undoes), also. --}}
<div class="split two">
  <section class="panel">
    <header>
      <h2>Against the plan</h2>
      <span class="soft">{{ count($lines) }} {{ count($lines) === 1 ? 'difference' : 'differences' }}</span>
    </header>
    <x-table label="Differences" data-worktable>
      <thead>
        <tr>
          <th class="pickcell">
            @if ($may)
              <input type="checkbox" data-pick-all aria-label="Pick all that can be taken">
            @endif
          </th>
          <th>What</th>
          <th>On {{ $server->name }}</th>
          <th>In the plan</th>
        </tr>
      </thead>
      <tbody>
        @foreach ($lines as $key => $line)
          <tr>
            <td class="pickcell">
              @if ($line->takes() && $may)
                <input type="checkbox" class="pick" form="take" name="take[]" value="{{ $key }}"
                  aria-label="Take {{ $line->what }}">
              @endif
            </td>
            <td class="wrap">
              {{ $line->what }}
              @unless ($line->takes())
                <br><span class="hint">Not to be taken: {{ $line->why }}</span>
              @endunless
            </td>
            <td class="mono wrap">{{ $line->there === '' ? 'none' : $line->there }}</td>
            <td class="mono wrap">{{ $line->here === '' ? 'none' : $line->here }}</td>
          </tr>
        @endforeach
      </tbody>
    </x-table>
  </section>
  @if ($may)
    <aside class="side">
      <section class="follows" aria-label="What follows">
        <h2>What follows</h2>
        <p class="cause">The chosen values of {{ $server->name }} become those of the plan</p>
        <p class="hint">What you do not take stays a difference, and the next shipment undoes it there. {{ $also }}</p>
        <form id="take" method="post" action="{{ $action }}">
          @csrf
          <div class="field">
            <span><label for="reason">Why in spite of a warning, if there is one</label></span>
            <input id="reason" name="reason" maxlength="250" autocomplete="off">
          </div>
          <div class="decide"><button class="btn main" data-key="main">Take the chosen <kbd>Ctrl Enter</kbd></button></div>
        </form>
        <form method="post" action="{{ at('ship.server', $server->id) }}">
          @csrf
          @foreach ($only as $one)
            <input type="hidden" name="only[]" value="{{ $one }}">
          @endforeach
          <div class="decide"><button class="btn stop">Undo it there: ship the plan</button></div>
        </form>
      </section>
    </aside>
  @endif
</div>
