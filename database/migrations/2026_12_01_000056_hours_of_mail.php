<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::table('people', function (Blueprint $t): void {
            $t->string('mail_zone', 64)->default('')->after('mail_when'); // blank: the one of the settings
            $t->unsignedTinyInteger('mail_hour')->nullable()->after('mail_zone'); // of the daily one; null: that of the settings
            // minutes since midnight between which nothing is told
            $t->unsignedSmallInteger('quiet_from')->nullable()->after('mail_hour');
            $t->unsignedSmallInteger('quiet_to')->nullable()->after('quiet_from');
        });
    }

    public function down(): void
    {
        Schema::table('people', fn (Blueprint $t) => $t->dropColumn(['mail_zone', 'mail_hour', 'quiet_from', 'quiet_to']));
    }
};
