<x-layout title="Read bytes" verb="lease" work="bytesform" does="paste bytes">
  <header class="title">
    <h1>Read bytes</h1>
    <span class="soft">what a capture shows, read as a client reads it</span>
    @include('lease.nav', ['here' => 'Read bytes'])
  </header>
  <div class="split two">
    <section class="panel">
      @if ($lines === [])
        <x-empty title="Nothing read yet">A whole message, the options of one, or the payload of one option. Try
          <a class="mono" href="{{ at('lease.bytes') }}?bytes=0104fffff000 0304 0a240001 7908 0c0a20 0a240001 ff">01 04 ff ff f0 00 …</a>
          or, of DHCPv6,
          <a class="mono" href="{{ at('lease.bytes') }}?family=6&bytes=01a1b2c3 0001000a 000300010000 5e005317 0019000c 00000007 00000000 00000000">01 a1 b2 c3
            …</a></x-empty>
      @else
        <x-table label="Options read">
          <thead>
            <tr>
              <th class="num">At byte</th>
              <th class="num">Code</th>
              <th>Option</th>
              <th>Meaning</th>
              <th>Bytes</th>
            </tr>
          </thead>
          <tbody>
            @foreach ($lines as $l)
              <tr>
                <td class="num">{{ $l['offset'] }}</td>
                <td class="num">{{ $l['code'] }}</td>
                <td class="deep-{{ min(4, $l['depth'] ?? 0) }}">{{ $l['name'] }}</td>
                <td class="mono wrap">
                  {{ $l['meaning'] }}
                  @if ($l['fault'])
                    <span class="bad">@mark('stop') {{ $l['fault'] }}</span>
                  @endif
                </td>
                <td class="mono soft wrap">{{ \HarborPost\Core\Bytes\Hex::spaced($l['bytes']) }}</td>
              </tr>
            @endforeach
          </tbody>
        </x-table>
      @endif
    </section>
    <div class="side">
      <section class="panel">
        <form id="bytesform" class="form pad-all" action="{{ at('lease.bytes') }}">
          <div class="field"><span><label for="family">Of which protocol</label></span>
            <select id="family" name="family">
              <option value="4" @selected($family->value === 4)>DHCPv4</option>
              <option value="6" @selected($family->value === 6)>DHCPv6</option>
            </select>
          </div>
          <div class="field"><span><label for="code">What they are</label></span>
            <select id="code" name="code">
              <option value="">options one after the other, or a whole message</option>
              @foreach ($registered as $id => $name)
                <option value="{{ $id }}" @selected($code === $id)>payload of {{ $name }}</option>
              @endforeach
            </select>
          </div>
          <div class="field"><span><label for="bytes">Hexadecimal digits; blanks, colons and line ends do not matter</label></span>
            <textarea id="bytes" name="bytes" rows="8" class="mono" spellcheck="false"
              @if ($problem) aria-invalid="true" aria-describedby="bytes-fault" @endif>{{ $typed }}</textarea>
            @if ($problem)
              <span class="hint bad" id="bytes-fault">{{ $problem }}</span>
            @endif
          </div>
          <p class="row end"><button class="btn main" data-key="main">Read <kbd>Ctrl Enter</kbd></button></p>
        </form>
      </section>
    </div>
  </div>
</x-layout>
