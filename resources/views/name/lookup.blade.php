<x-layout title="Lookup" verb="name">
  <nav aria-label="Above"><ol class="path"><li><a href="/name">Zones</a></li><li aria-current="page">Lookup</li></ol></nav>
  <header class="title"><h1>Lookup</h1><span class="soft">asks a server by a real packet, over UDP and, when the answer is cut, over TCP; at most three seconds</span></header>
  <form class="panel bar-line" action="/name/lookup">
    <div class="field"><span><label for="q">Name or address</label></span><input id="q" name="q" class="mono" value="{{ request('q') }}" size="36" autofocus></div>
    <div class="field"><span><label for="type">Type</label></span><select id="type" name="type"><option value="">fitting</option>@foreach([...\HarborPost\Core\Dns\Rdata\RdataTypes::WRITTEN, 'SOA', 'ANY'] as $t)<option @selected(request('type') === $t)>{{ $t }}</option>@endforeach</select></div>
    <div class="field"><span><label for="server">Server</label></span><select id="server" name="server">@foreach($servers as $s)<option value="{{ $s->id }}" @selected($server?->id === $s->id)>{{ $s->name }}{{ $s->kind === 'resolver' ? ', resolver' : '' }}</option>@endforeach</select></div>
    <div class="field"><span><label for="view">As a client of</label></span><select id="view" name="view"><option value="">nobody in particular</option>@foreach($views as $v)<option value="{{ $v->id }}" @selected(request('view') === $v->id)>{{ $v->name }}</option>@endforeach</select></div>
    <label class="tick"><input type="checkbox" name="rd" value="1" @checked(request('rd'))>recursion desired</label><label class="tick"><input type="checkbox" name="tcp" value="1" @checked(request('tcp'))>TCP only</label>
    <button class="btn main" data-key="main">Ask <kbd>Ctrl Enter</kbd></button>
  </form>
  @if($problem)<div class="fault" role="alert"><h3><x-mark name="stop"/>No answer to show</h3><p>{{ $problem }}</p></div>@endif
  @if($answer)
  @php($m = $answer->message)
  <div class="split even">
    <section class="panel"><header><h2>{{ $m->rcode->explained() === 'answered' && $m->answers === [] ? 'no such data at this name' : ucfirst($m->rcode->explained()) }}</h2><span class="mono soft">{{ $m->rcode->name }}</span><span class="end hint">{{ $server->name }}, {{ $answer->over }}, {{ number_format($answer->milliseconds, 1) }} ms, {{ strlen($answer->received) }} bytes{{ $answer->wasTruncated ? '; cut over UDP, asked again over TCP' : '' }}</span></header>
      <div class="pad"><p class="row"><span>Flags</span>@foreach(['QR' => 'an answer', 'AA' => 'with authority', 'TC' => 'cut', 'RD' => 'recursion desired', 'RA' => 'recursion available', 'AD' => 'validated', 'CD' => 'checking off'] as $f => $w)<span class="key @unless(in_array($f, $m->flagNames())) open @endunless"><span class="mono">{{ $f }}</span> {{ in_array($f, $m->flagNames()) ? $w : 'not' }}</span>@endforeach</p></div>
      <div class="scroll-x" tabindex="0" role="region" aria-label="Records of the answer"><table><thead><tr><th>Section</th><th>Name</th><th class="num">TTL</th><th>Type</th><th>Data</th></tr></thead><tbody>
      @foreach(['answer' => $m->answers, 'authority' => $m->authority, 'additional' => $m->additional] as $section => $records)@foreach($records as $r)<tr><td>{{ $section }}</td><td class="mono">{{ $r->owner }}</td><td class="num">{{ $r->ttl }}</td><td>{{ $r->type() }}</td><td class="mono wrap">{{ $r->data->text() }}</td></tr>@endforeach @endforeach
      @if($m->answers === [] && $m->authority === [] && $m->additional === [])<tr class="open"><td colspan="5">no records in any section</td></tr>@endif
      </tbody></table></div></section>
    <section class="panel"><header><h2>Bytes</h2><span class="hint">asked <span class="mono">{{ $asked }}</span></span></header><h3 class="pad">Sent, {{ strlen($answer->sent) }}</h3><pre class="hexdump" tabindex="0">{{ \App\View\Dump::of($answer->sent) }}</pre><h3 class="pad">Received, {{ strlen($answer->received) }}</h3><pre class="hexdump" tabindex="0">{{ \App\View\Dump::of($answer->received) }}</pre></section>
  </div>
  @elseif(! $problem)<div class="empty"><h3>Nothing asked yet</h3><p class="soft">A name asks for its addresses, an address for its name. Choose a client to see the view it falls into.</p></div>@endif
</x-layout>
