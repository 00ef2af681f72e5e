<section class="follows" data-form="{{ $form }}" data-upshot="{{ $what->upshot() }}" aria-label="What follows">
  <h2>What follows</h2>
  <p class="cause">{{ $title }}</p>
  <div class="scroll" tabindex="0" role="region" aria-label="What would be written">
    @if ($notice && request()->hasHeader('HX-Request'))
      <p class="wrong">@mark('stop')<span><b>{{ $notice }}</b></span></p>
    @endif
    @if ($outcome->trouble)
      <p class="wrong">@mark('stop')<span>{{ $outcome->trouble }}</span></p>
    @endif
    @if ($brokenDraft)
      <p class="wrong">@mark('warn')<span>Your draft does not hold any more and is left aside here. <a href="{{ at('ship.draft.mine') }}">Look at the
            draft</a></span></p>
    @endif
    @foreach ($beside as $one)
      @include('act.beside')
    @endforeach
    @foreach ($over as $object => $version)
      @unless (in_array($object, array_column($beside, 'object'), true))
        <label class="tick">
          <input type="checkbox" name="over[{{ $object }}]" value="{{ $version }}" form="{{ $form }}" checked>
          on top of what was saved meanwhile
        </label>
      @endunless
    @endforeach
    @if ($what->groups !== [])
      <h3>Written @if ($base > 0)
          <span>on top of your draft</span>
        @endif
      </h3>
      @foreach ($what->groups as $group => $rows)
        @if (count($rows) > 1 || count($what->groups) > 3)
          <p class="kindhead">{{ App\View\Follows::heading($group, count($rows)) }}</p>
        @endif
        <ol class="wake">
          @foreach (array_slice($rows, 0, App\View\Follows::OPEN) as $row)
            @include('act.row')
          @endforeach
        </ol>
        @if (count($rows) > App\View\Follows::OPEN)
          <details class="rest">
            <summary>and {{ number_format(count($rows) - App\View\Follows::OPEN) }} more</summary>
            <ol class="wake">
              @foreach (array_slice($rows, App\View\Follows::OPEN, App\View\Follows::LISTED) as $row)
                @include('act.row')
              @endforeach
            </ol>
            @if (count($rows) > App\View\Follows::OPEN + App\View\Follows::LISTED)
              <p class="hint">{{ number_format(count($rows) - App\View\Follows::OPEN - App\View\Follows::LISTED) }} further rows of this kind are
                counted and not listed here.</p>
            @endif
          </details>
        @endif
      @endforeach
      @if ($outcome->bulk() > 0)
        <p class="hint">{{ number_format($outcome->bulk()) }} further rows are counted and not listed here.</p>
      @endif
    @elseif ($outcome->bulk() > 0)
      <p>{{ number_format($outcome->bulk()) }} rows are written.</p>
    @elseif (!$outcome->blocked())
      <p class="soft">Nothing changes.</p>
    @endif
    @if ($what->later !== [])
      <ol class="wake">
        @foreach ($what->later as $line)
          <li>@mark('wait')<span>{{ $line }}</span></li>
        @endforeach
      </ol>
    @endif
    @if ($what->notes !== [])
      <h3>Checks <span>{{ $what->tally() }}</span></h3>
      <ul class="checks">
        @foreach ($what->notes as $note)
          @include('act.note')
        @endforeach
      </ul>
    @endif
  </div>
  @include('ship.needs', ['needs' => $outcome->needs])
  @unless ($outcome->blocked())
    <input type="hidden" name="shown" form="{{ $form }}" value="{{ $shown }}">
    @if ($what->count(App\Acts\Engine\NoteVerdict::Warned) > 0)
      <div class="field">
        <span><label for="reason-{{ $form }}">Why in spite of the warning (kept in the history)</label></span>
        <input id="reason-{{ $form }}" name="reason" form="{{ $form }}" value="{{ $reason }}" maxlength="250"
          autocomplete="off" required>
      </div>
    @endif
    @if ($asks)
      <div class="field">
        <span><label for="sure-{{ $form }}">Your password, since this gives rights</label></span>
        @if (auth()->user()->outside_subject !== null)
          <span class="hint">or <a href="{{ at('sign-in.with') }}" target="_blank" rel="noopener">
            show at {{ config('harbor.oidc.name') }} who you are</a>, then look again
            here</span>
        @endif
        <input id="sure-{{ $form }}" name="sure" form="{{ $form }}" type="password" maxlength="200" autocomplete="current-password" required>
      </div>
    @endif
    <div class="decide">
      @if ($draftable)
        <button class="btn main" form="{{ $form }}" formaction="{{ at('act', $action) }}" formnovalidate name="then" value="draft"
          data-key="main">Add to draft <kbd>Ctrl Enter</kbd></button>
        @if ($outcome->needs === [])
          <button class="btn" form="{{ $form }}" formaction="{{ at('act', $action) }}" name="then" value="commit" data-key="commit">Commit
            now</button>
        @endif
      @else
        <button class="btn main" form="{{ $form }}" formaction="{{ at('act', $action) }}" name="then" value="commit"
          data-key="main">{{ explode(' ', $title)[0] }} now <kbd>Ctrl Enter</kbd></button>
      @endif
    </div>
  @endunless
</section>
