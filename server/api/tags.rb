# frozen_string_literal: true

module Fobrel
  module Api
    # Words that brushes are found by.
    module Tags
      extend Sinatra::Extension

      get "/api/libraries/:library/tags" do
        tags = library.tags.includes(:synonyms).order(:name)
        counts = Models::Tagging.where(tag: tags).group(:tag_id).count
        answer({tags: tags.map { |tag| Views.tag(tag, counts.fetch(tag.id, 0)) }})
      end

      # Many brushes get a tag, or lose it.
      post "/api/libraries/:library/taggings" do
        answer_for_many("tag", json.slice("tag", "preset_ids", "on"))
      end

      put "/api/tags/:id" do
        said = json.slice("name", "colour", "shape", "synonyms").symbolize_keys
        tag = Actions::ChangeTag.call(tag: of_library(Models::Tag), person:, synonyms: [], **said)
        answer(Views.tag(tag.reload, tag.taggings.count))
      end

      post "/api/tags/:id/merge" do
        from = of_library(Models::Tag)
        answer_entry(Actions::MergeTags.call(person:, from:, into: from.library.tags.find(json["into"])))
      end

      delete "/api/tags/:id" do
        answer_removed(of_library(Models::Tag))
      end
    end
  end
end
