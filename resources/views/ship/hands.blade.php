{{-- What the draft is called, who works on it, and its end. Wants draft, mine, page. --}}
<section class="panel">
  <header>
    <h2>This draft</h2>
  </header>
  <div class="pad">
    @if ($mine)
      <form method="post" action="{{ at('act', 'name-draft') }}" class="form">
        @csrf
        <input type="hidden" name="then" value="commit">
        <input type="hidden" name="draft" value="{{ $draft->id }}">
        <div class="field"><span><label for="name-name">Name</label></span>
          <input id="name-name" name="name" maxlength="120" value="{{ $draft->title }}">
        </div>
        <div class="field"><span><label for="name-why">Why</label></span>
          <textarea id="name-why" name="why" rows="2" maxlength="2000">{{ $draft->why }}</textarea>
        </div>
        <div class="decide"><button class="btn small">Keep the name</button></div>
      </form>
    @elseif ($draft->why !== '')
      <p>{{ $draft->why }}</p>
    @endif
    <h3>Who works on it</h3>
    <ul class="plain">
      @foreach ($draft->hands as $hand)
        <li class="row">
          <span class="grow">{{ $hand->person->name }}
            @if ($hand->person_id === $draft->person_id)
              <span class="hint">author</span>
            @endif
          </span>
          @if ($hand->person_id !== $draft->person_id && ($mine || $hand->person_id === auth()->id()))
            <form method="post" action="{{ at('act', 'unshare-draft') }}">
              @csrf
              <input type="hidden" name="then" value="commit">
              <input type="hidden" name="draft" value="{{ $draft->id }}">
              <input type="hidden" name="colleague" value="{{ $hand->person_id }}">
              @if ($mine)
                <input type="hidden" name="stay" value="{{ $page }}">
              @endif
              <button class="btn small">{{ $mine ? 'Share no more' : 'Leave it' }}<span class="sr"> with {{ $hand->person->name }}</span></button>
            </form>
          @endif
        </li>
      @endforeach
    </ul>
    @if ($mine)
      <form method="post" action="{{ at('act', 'share-draft') }}" class="row">
        @csrf
        <input type="hidden" name="then" value="commit">
        <input type="hidden" name="draft" value="{{ $draft->id }}">
        <label class="sr" for="share-with">Share with, by sign-in or name</label>
        <input id="share-with" name="with" maxlength="120" required placeholder="sign-in or name" class="grow" value="{{ old('with') }}">
        <button class="btn small">Share it</button>
      </form>
      <form method="post" action="{{ at('act', 'drop-draft') }}" class="decide">
        @csrf
        <input type="hidden" name="then" value="commit">
        <input type="hidden" name="draft" value="{{ $draft->id }}">
        <button class="btn stop small">Drop the draft</button>
      </form>
    @endif
  </div>
</section>
