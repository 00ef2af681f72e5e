<?php

declare(strict_types=1);

namespace Tests;

use App\Acts\Engine\Inputs;
use App\Acts\Registry;
use App\Models\Person;
use Illuminate\Support\Facades\Route;

/**
 * Walks from the bridge over every kind of page that a person is led to: each link has to lead somewhere, and each form has to send only
 * what its act asks for, under the button that sends it.
 */
final class Crawl
{
    /** Pages of one kind that are opened. */
    private const OF_A_KIND = 2;

    /** Fields of a form that are no input of the act. */
    private const OF_FORM = ['_token', '_form', 'then', 'seen', 'over', 'shown', 'reason', 'sure', 'fit-place', 'another', 'stay', 'all'];

    /** @var array<string, int> kind of a page → how many were opened */
    private array $opened = [];

    /** What people paste into fields that are asked for something else. */
    private const TRAPS = ['%\' OR 1=1 --', 'site:( above:x type:', "\u{202E}x\0", '::ffff:10.0.0.1/129', '-', '9999999999999999999999'];

    /** @var array<string, true> acts and questions that were tried, by kind of page */
    private array $tried = [];

    /** @var list<string> what leads nowhere, and what no act asks for */
    public array $faults = [];

    public function __construct(private readonly TestCase $test, Person $person)
    {
        $test->actingAs($person);
        $waits = ['/bridge'];
        $seen = ['/bridge' => ''];
        while (($page = array_shift($waits)) !== null) {
            foreach ($this->open($page, $seen[$page]) as $link) {
                if (! isset($seen[$link])) {
                    $seen[$link] = $page;
                    $waits[] = $link;
                }
            }
        }
    }

    /** @return list<string> forms that were tried */
    public function tried(): array
    {
        return array_keys($this->tried);
    }

    /** @return list<string> kinds of pages that were opened */
    public function kinds(): array
    {
        return array_keys($this->opened);
    }

    /** @return list<string> where it leads */
    private function open(string $page, string $from): array
    {
        $kind = self::kind($page);
        if ($kind === null || ($this->opened[$kind] ?? 0) >= self::OF_A_KIND) {
            return [];
        }
        $this->opened[$kind] = ($this->opened[$kind] ?? 0) + 1;
        $answer = $this->test->get($page);
        // A guide is written for one kind of work, and read by others too.
        if ($answer->getStatusCode() === 403 && str_starts_with($from, '/guide/')) {
            return [];
        }
        if ($answer->getStatusCode() >= 400) {
            $this->faults[] = "$from leads to $page, which answers {$answer->getStatusCode()}";

            return [];
        }
        $html = (string) $answer->baseResponse->getContent();
        if (! str_contains($html, '<html')) {
            return [];
        }
        $document = new \DOMDocument;
        @$document->loadHTML('<?xml encoding="utf-8">'.$html);
        $path = new \DOMXPath($document);
        $this->forms($path, $page);
        $links = [];
        foreach ($path->query('//a[@href]') ?: [] as $link) {
            $href = $link instanceof \DOMElement ? $link->getAttribute('href') : '';
            str_starts_with($href, '?') && $href = parse_url($page, PHP_URL_PATH).$href;
            str_starts_with($href, '/') && ! str_starts_with($href, '//') ? $links[] = explode('#', $href)[0] : null;
        }

        return array_values(array_unique($links));
    }

    private static function kind(string $page): ?string
    {
        $request = \Illuminate\Http\Request::create($page);
        try {
            $uri = Route::getRoutes()->match($request)->uri();
        } catch (\Symfony\Component\HttpKernel\Exception\HttpException) {
            return is_file(public_path(ltrim($request->path(), '/'))) ? null : "nothing at {$request->path()}";
        }

        // Where the identity provider is would lead out of here.
        return str_starts_with($uri, 'sign-in') ? null : $uri.' '.implode(',', array_keys($request->query()));
    }

    private function forms(\DOMXPath $path, string $page): void
    {
        foreach ($path->query('//form') ?: [] as $form) {
            if (! $form instanceof \DOMElement) {
                continue;
            }
            $id = $form->getAttribute('id');
            if (strtolower($form->getAttribute('method') ?: 'get') === 'get') {
                $this->ask($page, $path, $form);

                continue;
            }
            $own = $id === '' ? '' : " | //*[@form='$id']";
            $fields = [];
            foreach ($path->query(".//*[@name]$own", $form) ?: [] as $field) {
                $owner = $field instanceof \DOMElement ? $field->getAttribute('form') : '';
                if (! $field instanceof \DOMElement || $field->nodeName === 'button' || $owner !== '' && $owner !== $id) {
                    continue;
                }
                $fields[] = explode('[', $field->getAttribute('name'))[0];
            }
            $form->hasAttribute('data-takes-picks') ? $fields[] = explode('[', $form->getAttribute('data-takes-picks'))[0] : null;
            foreach ($this->acts($path, $form, $id) as $act) {
                $class = Registry::find($act);
                $asked = $class === null ? [] : array_keys(Inputs::of($class));
                $lost = array_diff(array_unique($fields), $asked, self::OF_FORM, ['']);
                $this->look($page, $act, $path, $form, $id);
                $lost === [] ?: $this->faults[] = self::kind($page)." sends to $act what it does not ask for: ".implode(', ', $lost);
            }
        }
    }

    /** Looked at as it came, what follows is said; nothing in it breaks. */
    private function look(string $page, string $act, \DOMXPath $path, \DOMElement $form, string $id): void
    {
        $key = self::kind($page)." $act $id";
        if (isset($this->tried[$key])) {
            return;
        }
        $this->tried[$key] = true;
        $own = $id === '' ? '' : " | //*[@form='$id']";
        $sent = [];
        foreach ($path->query(".//*[@name]$own", $form) ?: [] as $field) {
            if ($field instanceof \DOMElement && in_array($field->nodeName, ['input', 'select', 'textarea'], true)) {
                $value = self::value($path, $field);
                $value === null ?: $sent[] = rawurlencode($field->getAttribute('name')).'='.rawurlencode($value);
            }
        }
        parse_str(implode('&', $sent), $input);
        $answer = $this->test->post("/act/$act", array_diff_key($input, ['then' => 0]) + ['then' => 'preview'], ['HX-Request' => 'true']);
        $answer->getStatusCode() < 500 ?: $this->faults[] = "$page: looking at $act answers {$answer->getStatusCode()}";
        str_contains((string) $answer->baseResponse->getContent(), 'is not asked for here')
            ? $this->faults[] = "$page: $act is sent what it does not ask for" : null;
    }

    /** What a field would send; null for one that sends nothing. */
    private static function value(\DOMXPath $path, \DOMElement $field): ?string
    {
        $type = $field->getAttribute('type');
        if ($field->nodeName === 'select') {
            $chosen = $path->query('.//option[@selected]', $field)?->item(0) ?? $path->query('.//option', $field)?->item(0);

            return $chosen instanceof \DOMElement ? $chosen->getAttribute('value') : null;
        }

        return match (true) {
            $field->nodeName === 'textarea' => $field->textContent,
            in_array($type, ['checkbox', 'radio'], true) && ! $field->hasAttribute('checked') => null,
            in_array($type, ['checkbox', 'radio'], true) => $field->getAttribute('value') ?: 'on',
            $type === 'file' => null,
            default => $field->getAttribute('value'),
        };
    }

    /** A question with a trap in each of its fields is answered, and its traps stand on the page as text. */
    private function ask(string $page, \DOMXPath $path, \DOMElement $form): void
    {
        $to = $form->getAttribute('action') ?: (string) parse_url($page, PHP_URL_PATH);
        $names = [];
        foreach ($path->query('.//*[self::input or self::textarea][@name][not(@type="hidden")]', $form) ?: [] as $field) {
            $field instanceof \DOMElement ? $names[] = $field->getAttribute('name') : null;
        }
        $kind = self::kind($to);
        if ($names === [] || $kind === null || isset($this->tried["ask $kind ".implode(',', $names)])) {
            return;
        }
        $this->tried["ask $kind ".implode(',', $names)] = true;
        foreach (self::TRAPS as $trap) {
            parse_str(implode('&', array_map(static fn (string $n): string => "$n=".rawurlencode($trap), $names)), $query);
            $answer = $this->test->get($to.'?'.http_build_query($query));
            $answer->getStatusCode() < 500
                ?: $this->faults[] = "$to asked \"$trap\" in ".implode(', ', $names)." answers {$answer->getStatusCode()}";
        }
    }

    /** @return list<string> keys of the acts that a form is sent to, by itself or by one of its buttons */
    private function acts(\DOMXPath $path, \DOMElement $form, string $id): array
    {
        $to = [$form->getAttribute('action'), $form->getAttribute('hx-post')];
        foreach ($path->query('.//button[@formaction]'.($id === '' ? '' : " | //button[@form='$id']"), $form) ?: [] as $button) {
            $button instanceof \DOMElement ? array_push($to, $button->getAttribute('formaction'), $button->getAttribute('hx-post')) : null;
        }
        $acts = array_map(static fn (string $t): string => str_starts_with($t, '/act/') ? substr($t, 5) : '', $to);

        return array_values(array_unique(array_filter($acts)));
    }
}
