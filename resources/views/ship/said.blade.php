{{-- Decisions and remarks on the whole. Wants draft, speaks. --}}
<section class="panel">
  <header>
    <h2>Said of it</h2>
  </header>
  <div class="pad-all">
    @foreach ($draft->decisions as $d)
      <p class="remark"><b>{{ $d->person->name }}</b> {{ $d->verdict->words() }}
        <span class="hint" title="{{ $d->at }}">{{ $d->at->diffForHumans() }}{{ $d->void_at ? ', does not count any more' : '' }}</span>
        {{ $d->reason }}
      </p>
    @endforeach
    @foreach ($draft->remarks->whereNull('edit_id') as $r)
      <p class="remark"><b>{{ $r->person->name }}</b> <span class="hint">{{ $r->at->diffForHumans() }}</span> {{ $r->text }}</p>
    @endforeach
    @if ($draft->decisions->isEmpty() && $draft->remarks->whereNull('edit_id')->isEmpty())
      <p class="open">nothing was said of it yet</p>
    @endif
    @if ($speaks)
      <form method="post" action="{{ at('ship.draft.remark', $draft->id) }}" class="row">
        @csrf
        <input name="text" maxlength="2000" required aria-label="Remark on the draft" class="grow">
        <button class="btn small">Say it</button>
      </form>
    @endif
  </div>
</section>
