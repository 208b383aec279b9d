# frozen_string_literal: true

module Fobrel
  module Api
    # The people of a library: who they are, what they may do, and who leaves.
    module People
      extend Sinatra::Extension

      get "/api/libraries/:library/people" do
        here = library
        members = here.memberships.joins(:person).includes(:person).order("people.name")
        drafts = Models::Draft.joins(:preset).where(presets: {library_id: here.id}).group(:person_id).count
        answer({people: members.map { |one| Views::People.member(one, drafts.fetch(one.person_id, 0)) }})
      end

      put "/api/libraries/:library/people/:item" do
        answer_entry(
          Actions::ChangeRole.call(library:, person:, member: params["item"].to_i, role: json["role"])
        )
      end

      # Others leave by a lead's word.
      delete "/api/libraries/:library/people/:item" do
        here = library
        answer_entry(
          Actions::LeaveLibrary.call(library: here, person:, member: params["item"].to_i, drafts_to: json["drafts_to"])
        )
      end

      # Whoever wants to leaves.
      post "/api/libraries/:library/leave" do
        here = library
        refuse(422, "Your own library stays with you. Archive it if it is in the way.") if here.person_id == person.id
        answer_entry(Actions::LeaveLibrary.call(library: here, person:, member: person.id, drafts_to: nil))
      end
    end
  end
end
