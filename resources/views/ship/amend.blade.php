<x-layout :title="'Amend: ' . $edit->title" verb="ship">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('ship.drafts') }}">Drafts</a></li>
      <li><a href="{{ at('ship.draft', $draft->id) }}">{{ $draft->line() }}</a></li>
      <li aria-current="page">Amend an edit</li>
    </ol>
  </nav>
  <header class="title">
    <h1>{{ $edit->title }}</h1>
    <span class="soft">edit of "{{ $draft->line() }}"; the draft shows what follows</span>
  </header>
  <div class="split two">
    <section class="panel">
      <header>
        <h2>What was asked for</h2>
      </header>
      <div class="pad">
        @if ($notes !== [])
          <ul class="checks" role="alert">
            @foreach ($notes as $note)
              @include('act.note')
            @endforeach
          </ul>
        @endif
        <form id="amend" method="post" action="{{ at('ship.draft.edit', $draft->id, $edit->id) }}" class="form">
          @csrf
          <input type="hidden" name="_form" value="amend">
          <input type="hidden" name="what" value="amend">
          @foreach ($inputs as $in)
            @php
              $list = $in['kind'] === App\Acts\Engine\Kind::Ids;
              $map = $in['kind'] === App\Acts\Engine\Kind::Map;
              $long = in_array($in['kind'], [App\Acts\Engine\Kind::Text, App\Acts\Engine\Kind::Texts, App\Acts\Engine\Kind::Lines], true);
            @endphp
            @if ($in['fixed'])
              <div class="field"><span>{{ $in['label'] }}</span><span class="soft">{{ $in['shown'] }}</span></div>
            @elseif ($map)
              @foreach ((array) $in['value'] as $key => $value)
                <x-field form="amend" :name="$in['name'] . '[' . $key . ']'" :label="$in['label'] . ': ' . $key" :value="$value" />
              @endforeach
            @elseif ($list)
              <x-field form="amend" :name="$in['name'] . '[]'" :label="$in['label']" :value="$in['value']" :options="$in['options']" multiple />
            @elseif ($in['pick'])
              <x-field form="amend" :name="$in['name']" :label="$in['label']" :value="$in['value']" :pick="$in['pick']" :shown="$in['shown']"
                :blank="$in['blank']" :hint="$in['help']" />
            @else
              <x-field form="amend" :name="$in['name']" :label="$in['label']" :value="$in['value']" :options="$in['options']"
                :blank="$in['blank']" :hint="$in['help']" :rows="$long ? 4 : null" :maxlength="$in['most']" />
            @endif
            @if ($in['empties'])
              <label class="tick"><input type="checkbox" name="empty[{{ $in['name'] }}]" value="1" @checked($in['value'] === '' && $in['was'])>
                {{ $in['label'] }}: empty on purpose</label>
            @endif
          @endforeach
          <div class="decide">
            <button class="btn main" data-key="main">Amend it <kbd>Ctrl Enter</kbd></button>
            <a class="btn" href="{{ at('ship.draft', $draft->id) }}">Leave it as it is</a>
          </div>
        </form>
      </div>
    </section>
  </div>
</x-layout>
