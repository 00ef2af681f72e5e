{{-- A panel whose forms are drawn when it is opened, since most visits open none. $panel, $title, $more, $forms that it holds --}}
@if (in_array(old('_form'), $forms, true) || request('panel') === $panel)@include("plan.$panel")
@else
  <details class="panel" @isset($id) id="{{ $id }}" @endisset
    hx-get="{{ at('plan.prefix.panel', $prefix->id, $panel) }}" hx-trigger="toggle once" hx-swap="outerHTML">
    <summary class="bar-line" id="panel-{{ $panel }}"><b>{{ $title }}</b>
      @if ($more !== '')
        <span class="soft">{{ $more }}</span>
      @endif
    </summary>
    <p class="pad"><a href="?panel={{ $panel }}">Open</a></p>
  </details>
@endif
