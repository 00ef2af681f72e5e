<?php

declare(strict_types=1);

namespace App\Bench;

use HarborPost\Core\Checks\ZoneRules;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Zone\Fault;
use HarborPost\Core\Dns\Zone\Zone;
use HarborPost\Core\Dns\Zone\ZoneFileReader;
use HarborPost\Core\Dns\Zone\ZoneFileWriter;
use HarborPost\Core\Net\Prefix;
use HarborPost\Core\Planning\Need;
use HarborPost\Core\Planning\NeedsTable;
use HarborPost\Core\Planning\OpenSpace;
use HarborPost\Core\Planning\Packing;

/** The core against floors: fgets with one preg_match a line, and PHP's own sort. */
final readonly class CoreBench
{
    private const RECORDS = 1000000;

    /** @param  \Closure(string, string, string, ?bool): void  $row */
    public function __construct(private \Closure $row)
    {
    }

    public function run(): void
    {
        $this->zoneFile();
        $this->openSpace();
        $this->packing();
    }

    /** 1,000 needs of 60 sites, read from their table and planned. */
    private function packing(): void
    {
        mt_srand(23);
        $text = "site,purpose,hosts,growth,years,v6,vlan\n";
        for ($i = 0; $i < 1000; $i++) {
            $text .= sprintf(
                "site %d,purpose %d,%d,%d,%d,%s,%d+\n",
                $i % 60,
                $i,
                mt_rand(2, 900),
                mt_rand(0, 20),
                mt_rand(0, 5),
                $i % 2 === 0 ? 'yes' : 'no',
                mt_rand(100, 900),
            );
        }
        $open = [Prefix::parse('10.0.0.0/8'), Prefix::parse('2001:db8::/32')];
        $read = self::time(fn () => NeedsTable::read($text));
        $needs = NeedsTable::read($text)->needs;
        $copy = $needs;
        $floor = $read + self::time(function () use (&$copy): void {
            usort($copy, fn (Need $a, Need $b): int => $a->length() <=> $b->length() ?: $a->line <=> $b->line);
        });
        $plan = self::time(fn () => Packing::plan($open, $needs));
        ($this->row)(
            'plan 1,000 needs',
            sprintf('%.1f × usort and reading the table (%.0f ms)', ($read + $plan) / $floor, 1000 * ($read + $plan)),
            '≤ 2 ×',
            ($read + $plan) / $floor <= 2,
        );
    }

    private function zoneFile(): void
    {
        $path = (string) tempnam(sys_get_temp_dir(), 'bench');
        $file = fopen($path, 'w');
        if ($file === false) {
            return;
        }
        fwrite($file, "\$TTL 3600\n@ SOA ns1 host 1 7200 900 1209600 300\n@ NS ns1\nns1 A 10.0.0.1\n");
        for ($i = 0; $i < self::RECORDS; $i++) {
            fwrite($file, sprintf("host%d.b%d IN A 10.%d.%d.%d\n", $i, $i % 1000, $i >> 16 & 255, $i >> 8 & 255, $i & 255));
        }
        fclose($file);
        $floor = self::time(function () use ($path): void {
            $file = fopen($path, 'r');
            while ($file !== false && ($line = fgets($file)) !== false) {
                preg_match('/^(\S*)\s+(.*)$/', $line);
            }
        });
        $origin = Name::parse('bench.example.');
        $before = memory_get_usage();
        $zone = null;
        $faults = 0;
        $read = self::time(function () use ($origin, $path, &$zone, &$faults): void {
            $reader = new ZoneFileReader($origin, function (Fault $f) use (&$faults): void {
                $faults++;
            });
            $zone = Zone::of($origin, $reader->read(self::lines($path)));
        });
        $memory = (memory_get_usage() - $before) / self::RECORDS;
        $check = self::time(function () use (&$zone): void {
            foreach ($zone === null ? [] : ZoneRules::check($zone) as $finding) {
                unset($finding);
            }
        });
        $bytes = 0;
        $write = self::time(function () use (&$zone, &$bytes): void {
            foreach ($zone === null ? [] : ZoneFileWriter::lines($zone) as $line) {
                $bytes += strlen($line);
            }
        });
        unlink($path);
        ($this->row)(
            'read and check a 1,000,000-record zone file',
            sprintf('%.1f × the floor (%.1f s; floor %.2f s)', ($read + $check) / $floor, $read + $check, $floor),
            '≤ 15 ×',
            ($read + $check) / $floor <= 15,
        );
        ($this->row)('write it', sprintf('%.1f × the floor (%.1f s)', $write / $floor, $write), '≤ 15 ×', $write / $floor <= 15);
        ($this->row)('memory a record', sprintf('%d bytes', $memory), '< 1024 bytes', $memory < 1024);
    }

    private function openSpace(): void
    {
        mt_srand(17);
        $used = [];
        for ($i = 0; $i < 1000000; $i++) {
            $first = pack('N', 0x0A000000 + (mt_rand(0, (1 << 22) - 1) << 2));
            $used[] = $first.($first | "\0\0\0\3");
        }
        $copy = $used;
        $floor = self::time(function () use (&$copy): void {
            sort($copy);
        });
        $open = self::time(fn () => OpenSpace::between(Prefix::parse('10.0.0.0/8'), $used)->count());
        ($this->row)(
            'open space among 1,000,000 used prefixes',
            sprintf('%.1f × sort (%.2f s; sort %.2f s)', $open / $floor, $open, $floor),
            '≤ 2.5 ×',
            $open / $floor <= 2.5,
        );
    }

    private static function time(\Closure $work): float
    {
        $start = microtime(true);
        $work();

        return microtime(true) - $start;
    }

    /** @return \Generator<int, string> */
    private static function lines(string $path): \Generator
    {
        $file = fopen($path, 'r');
        while ($file !== false && ($line = fgets($file)) !== false) {
            yield $line;
        }
    }
}
