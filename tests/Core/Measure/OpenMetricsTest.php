<?php

declare(strict_types=1);

use HarborPost\Core\Measure\OpenMetrics;
use HarborPost\Core\Measure\Sample;

$seen = static fn (string $text): array => array_map(
    static fn (Sample $s): array => [$s->family, $s->type, $s->key(), $s->value, $s->count],
    OpenMetrics::read($text)->samples,
);

it('reads families, their labels and their kinds', function () use ($seen): void {
    $text = <<<'TXT'
        # TYPE dns_queries counter
        # HELP dns_queries Questions by type.
        # UNIT dns_queries queries
        dns_queries_total{type="A"} 12
        dns_queries_total{type="MX",net="a\"b\\c\nd"} 3 1520879607.789
        # TYPE zones gauge
        zones 7
        # TYPE answer_seconds summary
        answer_seconds_sum 1.5
        answer_seconds_count 30
        answer_seconds{quantile="0.5"} 0.01
        # TYPE h histogram
        h_bucket{le="1"} 4
        h_sum{x="1"} 9
        h_count{x="1"} 3
        # EOF
        TXT;
    expect($seen($text))->toBe([
        ['dns_queries', 'counter', 'type=A', 12.0, null],
        ['dns_queries', 'counter', "net=a\"b\\c\nd, type=MX", 3.0, null],
        ['zones', 'gauge', '', 7.0, null],
        ['answer_seconds', 'summary', '', 1.5, 30.0],
        ['h', 'summary', 'x=1', 9.0, 3.0],
    ]);
    $read = OpenMetrics::read($text);
    expect($read->ended)->toBeTrue()->and($read->left)->toBe(2)->and($read->samples[0]->help)->toBe('Questions by type.')
        ->and($read->samples[0]->unit)->toBe('queries');
});

it('reads the older form, and says that it has no end', function () use ($seen): void {
    $text = "# TYPE go_gc counter\ngo_gc 5\nup 1\nseen_total 4\n";
    expect($seen($text))->toBe([
        ['go_gc', 'counter', '', 5.0, null], ['up', 'gauge', '', 1.0, null], ['seen', 'counter', '', 4.0, null],
    ])->and(OpenMetrics::read($text)->ended)->toBeFalse();
});

it('leaves out what is no number, and counts what is too much', function (): void {
    $read = OpenMetrics::read("a NaN\nb +Inf\nc -Inf\nd 1e999\ne 1\nf 2\ng 3\n# EOF\n", 2);
    expect($read->left)->toBe(4)->and($read->samples)->toHaveCount(2)->and($read->beyond)->toBe(1);
});

it('names the line at fault', function (string $text, string $says): void {
    OpenMetrics::read($text);
})->with([
    ["a 1\nb{x=1} 2", ''], ["a 1\n<html>", ''], ["a 1\nb two", ''], ["# EOF\na 1", ''],
])->throws(UnexpectedValueException::class, 'line 2');

it('keeps counters by the second, begins anew after a restart, and means of summaries', function (): void {
    $counter = new Sample('c', Sample::COUNTER, [], 160.0);
    expect($counter->since(100.0, null, 60.0))->toBe(1.0)
        ->and($counter->since(1000.0, null, 60.0))->toBe(160 / 60)
        ->and($counter->since(null, null, 60.0))->toBeNull()
        ->and($counter->since(100.0, null, 0.0))->toBeNull()
        ->and((new Sample('g', Sample::GAUGE, [], -4.0))->since(null, null, 0.0))->toBe(-4.0);
    $summary = new Sample('s', Sample::SUMMARY, [], 3.0, 20.0);
    expect($summary->since(1.0, 10.0, 60.0))->toBe(0.2)->and($summary->since(3.0, 20.0, 60.0))->toBeNull()
        ->and($summary->since(9.0, 90.0, 60.0))->toBe(0.15);
});

it('gives back any label and any number', function (): void {
    mt_srand((int) (getenv('HPOST_SEED') ?: 3));
    for ($case = 0; $case < 200; $case++) {
        $value = mt_rand(-1000, 1000) / 8;
        $label = '';
        for ($i = mt_rand(0, 6); $i > 0; $i--) {
            $label .= ['a', '"', '\\', "\n", 'é', ',', '}', '='][mt_rand(0, 7)];
        }
        $escaped = strtr($label, ['\\' => '\\\\', '"' => '\\"', "\n" => '\\n']);
        $read = OpenMetrics::read("x{l=\"$escaped\"} $value\n# EOF\n");
        expect($read->samples[0]->labels)->toBe(['l' => $label])->and($read->samples[0]->value)->toBe((float) $value);
    }
});
