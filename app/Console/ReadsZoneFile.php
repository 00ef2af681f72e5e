<?php

declare(strict_types=1);

namespace App\Console;

use HarborPost\Core\Checks\SignedZoneCheck;
use HarborPost\Core\Checks\ZoneRules;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Zone\Fault;
use HarborPost\Core\Dns\Zone\Zone;
use HarborPost\Core\Dns\Zone\ZoneFileReader;

/** Reads a zone file and gathers what is found in it. */
abstract class ReadsZoneFile extends Computes
{
    /**
     * @var list<array{code: string, severity: string, line: ?int, column: ?int, owner: ?string, type: ?string, message: string,
     *     standard: string}>
     */
    protected array $findings = [];

    /** what was read last */
    private string $file = '';

    protected function read(bool $check, string $argument = 'file', bool $signed = false): ?Zone
    {
        // A million records are a million small values and no cycles: collecting them over and over is most of the time.
        gc_disable();
        $path = $this->argument($argument);
        $path = is_string($path) ? $path : '';
        $this->file = basename($path);
        $file = $path === '-' ? STDIN : (is_file($path) ? @fopen($path, 'r') : false);
        $name = (string) $this->option('origin');
        if ($file === false) {
            $this->err("\"$path\" is no file that can be read");

            return null;
        }
        try {
            $origin = $name === '' ? null : Name::parse(rtrim($name, '.').'.');
        } catch (Malformed $e) {
            $this->err("--origin: {$e->getMessage()}");

            return null;
        }
        if ($origin === null) {
            $this->err('say with --origin=NAME which zone it is');

            return null;
        }
        $reader = new ZoneFileReader($origin, function (Fault $f): void {
            $this->findings[] = [
                'code' => $f->code, 'severity' => $f->severity, 'line' => $f->line, 'column' => $f->column, 'owner' => $f->owner,
                'type' => $f->type, 'message' => $f->message, 'standard' => $f->standard,
            ];
        });
        $zone = Zone::of($origin, $reader->read(self::linesOf($file)), true);
        foreach ([$check ? ZoneRules::check($zone) : [], $signed ? SignedZoneCheck::of($zone, time()) : []] as $found) {
            $this->note($zone, $found);
        }
        usort(
            $this->findings,
            fn (array $a, array $b): int => [$a['line'] ?? 0, $a['column'] ?? 0] <=> [$b['line'] ?? 0, $b['column'] ?? 0],
        );

        return $zone;
    }

    /** @param  iterable<\HarborPost\Core\Checks\Finding>  $found */
    private function note(Zone $zone, iterable $found): void
    {
        foreach ($found as $f) {
            $line = $f->owner === null ? null : $zone->lineOf($f->owner, $f->type?->number);
            $this->findings[] = [
                'code' => $f->code, 'severity' => $f->severity->value, 'line' => $line, 'column' => $line === null ? null : 1,
                'owner' => $f->owner === null ? null : (string) $f->owner->lower(), 'type' => $f->type === null ? null : (string) $f->type,
                'message' => $f->message.($f->fix === null ? '' : "; $f->fix"), 'standard' => $f->standard,
            ];
        }
    }

    protected function sayFindings(bool $toError): void
    {
        foreach ($this->findings as $f) {
            $line = sprintf(
                '%s:%s:%s %s %s: %s%s [%s]',
                $this->file,
                $f['line'] ?? '-',
                $f['column'] ?? '-',
                $f['severity'],
                $f['code'],
                $f['owner'] === null ? '' : $f['owner'].($f['type'] === null ? '' : ' '.$f['type']).': ',
                $f['message'],
                $f['standard'],
            );
            $toError ? $this->err($line) : $this->say($line);
        }
    }

    protected function hasErrors(): bool
    {
        return in_array('error', array_column($this->findings, 'severity'), true);
    }

    /**
     * @param  resource  $file
     * @return \Generator<int, string>
     */
    private static function linesOf($file): \Generator
    {
        while (($line = fgets($file)) !== false) {
            yield $line;
        }
        fclose($file);
    }
}
