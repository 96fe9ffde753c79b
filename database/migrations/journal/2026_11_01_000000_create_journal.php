<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration {
    protected $connection = 'journal';

    public function up(): void
    {
        $schema = Schema::connection('journal');
        // Append-only; each row's hash covers the one before it.
        $schema->create('journal', static function (Blueprint $table): void {
            $table->unsignedBigInteger('sequence')->primary();
            $table->unsignedBigInteger('at');
            $table->unsignedBigInteger('step');
            $table->unsignedBigInteger('account')->nullable();
            $table->string('contract')->nullable();
            $table->string('type');
            $table->unsignedInteger('version');
            $table->string('command_id')->nullable();
            $table->text('words');
            $table->text('body');
            $table->string('previous_hash', 64);
            $table->string('hash', 64);
            $table->index(['account', 'sequence']);
        });
        // Views for the web to read, written in the same transaction. `body` is the resource as it goes out.
        $schema->create('orders', static function (Blueprint $table): void {
            $table->unsignedBigInteger('id')->primary();
            $table->unsignedBigInteger('account');
            $table->string('contract');
            $table->string('state');
            $table->boolean('working');
            $table->text('body');
            $table->index(['account', 'working', 'id']);
        });
        $schema->create('fills', static function (Blueprint $table): void {
            $table->unsignedBigInteger('id')->primary();
            $table->unsignedBigInteger('account');
            $table->string('contract');
            $table->text('body');
            $table->index(['account', 'id']);
        });
        $schema->create('accounts', static function (Blueprint $table): void {
            $table->unsignedBigInteger('id')->primary();
            $table->unsignedBigInteger('owner')->index();
            $table->text('body');
        });
        $schema->create('contracts', static function (Blueprint $table): void {
            $table->string('code')->primary();
            $table->unsignedInteger('position');
            $table->text('body');
        });
        // Where the engine goes on after a stop: the desk, and each contract's market with its best prices.
        $schema->create('checkpoints', static function (Blueprint $table): void {
            $table->string('name')->primary();
            $table->unsignedBigInteger('sequence');
            $table->string('build');
            $table->binary('body');
        });
    }
};
