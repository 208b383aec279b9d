# frozen_string_literal: true

module Fobrel
  module Core
    module Curation
      # Looks over what is to be handed over. Some findings stop a release, others only want to be
      # looked at.
      #
      #   Preflight.new(entries, assets: store, canvas: [1920, 1080]).findings.select(&:stops)
      class Preflight
        # A brush to be handed over: its preset, and what the library says of it; `stock` where it
        # came from elsewhere and paints as it came.
        Entry = Struct.new(:key, :preset, :hidden, :locked, :drafts_of, :stock, keyword_init: true)
        # What was found: at which brush (its key), whether it stops a release, in one sentence.
        Finding = Struct.new(:kind, :key, :stops, :sentence, keyword_init: true)

        SPDX = JSON.parse(File.read(File.join(DATA, "spdx.json"))).to_set.freeze
        # A part above this weight, or this many pixels a side, is oversize.
        HEAVY = 8 * 1024 * 1024
        BROAD = 2000

        # @param entries [Array<Entry>]
        # @param assets [#fetch] from "sha256:…" to bytes
        # @param canvas [Array(Numeric, Numeric)] the studio's, px
        # @param licence [String] of the bundle
        def initialize(entries, assets:, canvas:, licence: "")
          @entries = entries
          @assets = assets
          @canvas = canvas
          @licence = licence
        end

        # @return [Array<Finding>] those that stop a release first
        def findings
          found = [
            *whole,
            *@entries.flat_map { |entry|
              [*words(entry), *state(entry), *size(entry), *parts(entry)]
            },
            *clashes,
            *duplicates,
            *stock
          ]
          found.sort_by.with_index { |one, index| [one.stops ? 0 : 1, index] }
        end

        private

        def finding(kind, entry, sentence, stops: false) = Finding.new(kind:, key: entry&.key, stops:, sentence:)

        def called(entry) = "“#{entry.preset.name}”"

        def whole
          return [finding("empty", nil, "The bundle holds no brushes. Add some first.", stops: true)] if @entries.empty?
          return [finding("licence", nil, "The bundle has no licence. Choose one.", stops: true)] if @licence.empty?
          SPDX.include?(@licence) ? [] : [
            finding(
              "licence",
              nil,
              "#{@licence.inspect} is not an SPDX licence identifier. Choose one from the list.",
              stops: true
            )
          ]
        end

        def unknown_licence(entry)
          licence = entry.preset["about", "licence"]
          return if licence.empty? || SPDX.include?(licence)
          finding("licence", entry, "The licence of #{called(entry)}, #{licence.inspect}, is not an SPDX identifier.")
        end

        def words(entry)
          about = entry.preset["about"]
          [
            (finding("licence", entry, "#{called(entry)} has no licence.") if about["licence"].empty?),
            unknown_licence(entry),
            (finding("unnamed", entry, "#{called(entry)} names no author.") if about["author"].empty?),
            (if entry.preset.name.match?(/\A(untitled|brush|tip)?\s*\d*\z/i)
               finding(
                 "unnamed",
                 entry,
                 "#{called(entry)} still has a name given by number alone."
               )
             end)
          ].compact
        end

        def state(entry)
          [
            (if entry.hidden
               finding(
                 "hidden",
                 entry,
                 "#{called(entry)} is hidden. Restore it or remove it.",
                 stops: true
               )
             end),
            (if entry.locked
               finding(
                 "locked",
                 entry,
                 "#{called(entry)} is locked; its current version is released."
               )
             end),
            *entry.drafts_of.map { |who|
              finding("draft", entry, "#{who} has changes on #{called(entry)} that are not saved; they do not go out.")
            }
          ].compact
        end

        def size(entry)
          most = Stroke::Strip.greatest(entry.preset)
          limit = @canvas.min
          (most > limit) ? [
            finding(
              "size",
              entry,
              "#{called(entry)} paints up to #{most.round} px, beyond the short side of the studio’s canvas, " \
                "#{limit} px."
            )
          ] : []
        end

        def parts(entry)
          entry.preset.needs.flat_map do |need|
            bytes = @assets.fetch(need) { nil }
            unless bytes
              next [
                finding(
                  "missing",
                  entry,
                  "#{called(entry)} needs the picture #{need[7, 12]}…, which is not here.",
                  stops: true
                )
              ]
            end
            [oversize(entry, bytes), (weak(entry, bytes) if entry.preset.frames.include?(need))].compact
          end
        end

        def oversize(entry, bytes)
          if bytes.bytesize > HEAVY
            return finding(
              "oversize",
              entry,
              "A part of #{called(entry)} weighs #{bytes.bytesize / 1024 / 1024} MB."
            )
          end
          return unless Tip::Picture.kind(bytes)
          picture = Tip::Picture.read(bytes)
          if [
            picture.width, picture.height
          ].max > BROAD
            finding(
              "oversize",
              entry,
              "A part of #{called(entry)} is #{picture.width} × #{picture.height} px, more than #{BROAD} a side."
            )
          end
        end

        def weak(entry, bytes)
          return if entry.preset["tip", "form", "colours"] == "own" || !Tip::Picture.kind(bytes)
          cover = Tip::Cover.from_file(bytes, name: "A tip of #{called(entry)}")
          return if cover.solid?
          stray = cover.greatest >= Tip::Cover::SOLID
          weak = "cannot paint solid: its greatest cover is #{(cover.greatest * 100).round} %"
          weak = "hardly paints solid: less than 1 % of its mark does" if stray
          finding("weak tip", entry, "A tip of #{called(entry)} #{weak}.")
        end

        def clashes
          @entries.group_by {
            _1.preset.name.downcase
          }.values.select { _1.size > 1 }.map { |same|
            finding(
              "clash",
              same.last,
              "#{same.size} brushes are called #{called(same.last)}. Rename all but one.",
              stops: true
            )
          }
        end

        # In one sentence: it is often most of a bundle.
        def stock
          same = @entries.select(&:stock)
          return [] if same.empty?
          names = "#{same.first(4).map { called(_1) }.join(", ")}#{" and #{same.size - 4} more" if same.size > 4}"
          [
            finding(
              "stock",
              nil,
              "#{names} #{(same.size == 1) ? "is" : "are"} stock: received from elsewhere, and unchanged here. Leave " \
                "out what those who get this have already."
            )
          ]
        end

        def duplicates
          @entries.group_by {
            _1.preset.fingerprint
          }.values.select { _1.size > 1 }.map { |same|
            finding(
              "duplicate",
              same.last,
              "#{same.map {
                called(_1)
              }.join(" and ")} paint exactly the same."
            )
          }
        end
      end
    end
  end
end
