<x-layout title="Classes" verb="lease" :work="$may ? 'makeclass' : null" does="make a class">
  <header class="title">
    <h1>Classes</h1>
    <span class="soft">clients told apart by what they say of themselves; where several hold, the first one counts</span>
    @include('lease.nav', ['here' => 'Classes'])
  </header>
  <div class="split @if ($may) two @endif">
    <div class="stack">
      <section class="panel">
        @if ($classes->isEmpty())
          <x-empty title="No classes yet">A class gives some clients other options, or a range of their own: phones of one maker, devices
            behind one switch. For instance: vendor class (60) starts with "callbox-".</x-empty>
        @else
          <x-table label="Classes" data-worktable>
            <thead>
              <tr>
                <th class="num">Place</th>
                <th>Class</th>
                <th>Its clients</th>
                <th class="num">Options</th>
                <th class="num">Ranges</th>
                @if ($packet)
                  <th>This message</th>
                @endif
              </tr>
            </thead>
            <tbody>
              @foreach ($classes as $c)
                @php
                  $rules = $c->rules();
                @endphp
                <tr @class(['drafted' => isset($touched["class:$c->id"])]) title="{{ $touched["class:$c->id"] ?? '' }}">
                  <td class="num">{{ $c->position }}</td>
                  <td class="name"><a href="{{ at('lease.options.of', 'class', $c->id) }}">{{ $c->name }}</a></td>
                  <td class="wrap">{{ $rules->words() }}</td>
                  <td class="num">{{ $c->option_values_count ?: '' }}</td>
                  <td class="num">{{ $ranges[$c->id] ?? '' }}</td>
                  @if ($packet)
                    <td class="wrap">
                      @if ($rules->matches($packet))
                        @mark('ok') is in it
                      @else
                        <span class="open">is not in it</span>
                      @endif
                      @foreach ($rules->why($packet) as $w)
                        <br><span class="hint">{{ $w['words'] }}: {{ $w['seen'] ?? 'it says nothing' }}</span>
                      @endforeach
                    </td>
                  @endif
                </tr>
              @endforeach
            </tbody>
          </x-table>
        @endif
      </section>
      <section class="panel">
        <header>
          <h2>Try them on a message</h2>
        </header>
        <form class="form pad" action="{{ at('lease.classes') }}">
          <div class="field"><span><label for="packet">A DHCP message as hexadecimal digits, as a capture shows it</label></span>
            <textarea id="packet" name="packet" rows="3" class="mono" spellcheck="false">{{ $typed }}</textarea>
            @if ($problem)
              <span class="hint bad">{{ $problem }}</span>
            @endif
          </div>
          <p class="row end"><button class="btn small">Try it</button></p>
          <p class="hint">A client described by hand is tried on the page of the <a href="{{ at('lease.exchange') }}">exchange</a>.</p>
        </form>
      </section>
    </div>
    @if ($may)
      <div class="side">
        <section class="panel">
          <header>
            <h2>Make a class</h2>
          </header>
          <div class="pad">
            <x-act id="makeclass" action="make-class">
              <x-field form="makeclass" name="name" label="Name" />
              @include('lease.parts.conditions', [
                  'form' => 'makeclass',
                  'rows' => $start[1] === '' ? [] : [['field' => $start[0], 'is' => 'is', 'value' => $start[1]]],
                  'any' => false,
              ])
              <x-field form="makeclass" name="description" label="Description" />
            </x-act>
          </div>
        </section>
        <x-follows-slot form="makeclass" />
      </div>
    @endif
  </div>
</x-layout>
